/** Chance with a seed, so that every run can be played again (mulberry32, a 32-bit generator in the public domain). */
export class Chance {
  constructor(private seed: number) {}
  /** A number from 0 up to, not including, 1. */
  next(): number {
    this.seed = (this.seed + 0x6d2b79f5) | 0
    let t = Math.imul(this.seed ^ (this.seed >>> 15), 1 | this.seed)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
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
