import { uniformFloat32 } from 'pure-rand/distribution/uniformFloat32'
import { mersenne } from 'pure-rand/generator/mersenne'

/** Chance with a seed, so that every run can be played again. Mersenne Twister: its first numbers differ between neighbouring seeds. */
export class Chance {
  private readonly generator: ReturnType<typeof mersenne>
  constructor(seed: number) {
    this.generator = mersenne(seed)
  }
  /** A number from 0 up to, not including, 1. */
  next(): number {
    return uniformFloat32(this.generator)
  }
  /** A normal deviate of two even numbers, after Box and Muller. */
  normal(): number {
    return Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next())
  }
  is(share: number): boolean {
    return this.next() < share
  }
  int(below: number): number {
    return Math.floor(this.next() * below)
  }
  pick<T>(list: readonly T[]): T {
    return list[this.int(list.length)]!
  }
  /** Every weight made rarer, left alone or made more frequent: episodes that differ find more than an average one. */
  swarm<K extends string>(weights: Record<K, number>): Record<K, number> {
    const changed = { ...weights }
    for (const key of Object.keys(weights) as K[]) changed[key] *= this.pick([0.1, 1, 1, 5])
    return changed
  }
  /** One of the keys, each as often as its weight says. */
  weighed<K extends string>(weights: Record<K, number>): K {
    let left = this.next() * Object.values<number>(weights).reduce((sum, weight) => sum + weight, 0)
    for (const [key, weight] of Object.entries<number>(weights) as [K, number][]) if ((left -= weight) < 0) return key
    return Object.keys(weights)[0] as K
  }
}
