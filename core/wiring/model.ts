import type { TerminalModel } from './terminal-model'

/**
 * The wiring of a home, as far as one box and what it reaches: circuits, cables, splices, switches, lamps, devices.
 * A *point* is something a probe can stand on: the end of a conductor (`A.near` in this box, `A.far` at its other end),
 * a terminal of a part (`wall:line`), a circuit's line or neutral at the panel (`c1.line`), or `earth`.
 */
export type Point = string

export interface Circuit {
  id: string
  /** Volts between its line and neutral, and its angle: 0 and 180 degrees are the two legs of 120/240 V. */
  volts: number
  degrees: number
  amps: number
  /** What watches it besides overcurrent. */
  guard: 'none' | 'residualCurrent' | 'arcFault'
}
export interface Core {
  id: string
  colour: string
}
export interface Cable {
  id: string
  metres: number
  cores: Core[]
}
export type Part = { id: string } & (
  | { kind: 'switch'; contacts: 'single' | 'threeWay' | 'fourWay' }
  | { kind: 'lamp'; lamp: 'filament' | 'led'; watts: number }
  | { kind: 'motor'; watts: number }
  | { kind: 'device'; model: TerminalModel }
)
export type Fault =
  | { kind: 'open'; coreId: string }
  | { kind: 'highResistance'; coreId: string; ohms: number }
  /** Two points touch: a short, a neutral against ground, a bootleg ground. */
  | { kind: 'contact'; a: Point; b: Point }
  /** What was on one point is on the other. */
  | { kind: 'swapped'; a: Point; b: Point }
  /** A point is taken off its splice and put with another point: a borrowed neutral. */
  | { kind: 'moved'; point: Point; to: Point }
  /** A point has come off its splice: a pigtail that was pulled out. */
  | { kind: 'loose'; point: Point }
  | { kind: 'welded'; partId: string }
  | { kind: 'deadPart'; partId: string }

export interface Wiring {
  hertz: number
  nominalVolts: number
  circuits: Circuit[]
  cables: Cable[]
  /** Points that are one: splices, and terminals with their conductors. */
  joins: Point[][]
  parts: Part[]
  faults: Fault[]
}

/** How everything that can be moved stands. A switch has positions 0 and 1; a device a bit per channel that is told on. */
export interface Setting {
  /** Circuits whose breaker is closed. */
  closed: string[]
  positions: Record<string, number>
}

export const switchTerminals = {
  single: ['a', 'b'],
  threeWay: ['common', 't1', 't2'],
  fourWay: ['a1', 'a2', 'b1', 'b2'],
} as const

/** Which terminals a switch connects in a position (wiring theory: a 3-way picks one traveler, a 4-way crosses both). */
export function switchContacts(contacts: 'single' | 'threeWay' | 'fourWay', position: number): [string, string][] {
  if (contacts === 'single') return position ? [['a', 'b']] : []
  if (contacts === 'threeWay') return [['common', position ? 't2' : 't1']]
  return position
    ? [
        ['a1', 'b2'],
        ['a2', 'b1'],
      ]
    : [
        ['a1', 'b1'],
        ['a2', 'b2'],
      ]
}

export const terminal = (partId: string, name: string): Point => `${partId}:${name}`
export const near = (coreId: string): Point => `${coreId}.near`
export const far = (coreId: string): Point => `${coreId}.far`

/** The joins after the faults that move conductors: swapped ends, borrowed neutrals, contacts. */
export function joinsWithFaults(wiring: Wiring): Point[][] {
  let joins = wiring.joins.map((join) => [...join])
  for (const fault of wiring.faults) {
    if (fault.kind === 'swapped')
      joins = joins.map((join) => join.map((point) => (point === fault.a ? fault.b : point === fault.b ? fault.a : point)))
    if (fault.kind === 'moved') {
      joins = joins.map((join) => join.filter((point) => point !== fault.point))
      joins.push([fault.point, fault.to])
    }
    if (fault.kind === 'loose') joins = joins.map((join) => join.filter((point) => point !== fault.point))
    if (fault.kind === 'contact') joins.push([fault.a, fault.b])
  }
  return joins
}

/** Union of points that are one. */
export class Ties {
  constructor(
    /** Points by number; shared with the copies, which only add to it. */
    private readonly numbers = new Map<Point, number>(),
    private readonly parent: number[] = [],
  ) {}
  /** The same ties, to go on from. */
  copy(): Ties {
    return new Ties(this.numbers, this.parent.slice())
  }
  /** The piece of metal a point belongs to. */
  find(point: Point): number {
    let number = this.numbers.get(point)
    if (number === undefined) this.numbers.set(point, (number = this.numbers.size))
    for (let next = this.parent.length; next <= number; next++) this.parent.push(next)
    let root = number
    while (this.parent[root] !== root) root = this.parent[root]!
    this.parent[number] = root
    return root
  }
  tie(a: Point, b: Point): void {
    const first = this.find(a)
    const second = this.find(b)
    if (first !== second) this.parent[second] = first
  }
  same(a: Point, b: Point): boolean {
    return this.find(a) === this.find(b)
  }
}
