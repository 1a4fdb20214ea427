import { switchContacts } from '../model'
import type { BoxIndex } from './box-index'
import type { CableRun } from './cable-runs'
import { allOutcomes, seen, type WireTest } from './found-box'
import { wholeChain } from './roles'

/** Which traveler is picked. */
const farPosition = (far: readonly number[], which: number): number =>
  which === wholeChain ? (far[0] ?? 0) ^ (far[1] ?? 0) : (far[which] ?? 0)
/** Nets of one setting: metal by union, lamps and the like as edges. */
export interface Nets {
  metal: Int8Array
  /** Pairs of nodes, each as two bits. */
  soft: number[]
}
export function netsOf(
  box: BoxIndex,
  runs: readonly (CableRun | undefined)[],
  far: readonly number[],
  attached: readonly (readonly [number, number])[] = [],
): Nets {
  const metal = Int8Array.from({ length: box.nodes }, (_, index) => index)
  const find = (node: number): number => {
    while (metal[node] !== node) node = metal[node]!
    return node
  }
  const tie = (a: number, b: number) => {
    const first = find(a)
    const second = find(b)
    if (first !== second) metal[Math.min(first, second)] = Math.max(first, second)
  }
  for (let letter = 0; letter < box.letters.length; letter++) {
    const splice = box.spliceOf[letter]!
    if (splice >= 0) tie(letter, box.spliceOf.indexOf(splice))
  }
  for (const [a, b] of attached) tie(a, b)
  const soft: [number, number][] = []
  for (const run of runs) {
    if (!run) continue
    for (const link of run.links) {
      if (link.far >= 0 && farPosition(far, link.far) !== link.when) continue
      if (link.kind === 'hard') tie(link.a, link.b)
      else soft.push([link.a, link.b])
    }
  }
  for (let node = 0; node < box.nodes; node++) metal[node] = find(node)
  return { metal, soft: soft.map(([a, b]) => (1 << metal[a]!) | (1 << metal[b]!)) }
}

/**
 * What the old switches connect while they are still attached. Of a single-pole one it is seen which way is on, though it may
 * be worn out and not close (it is being replaced, after all); which traveler a 3-way's lever picks, or a 4-way's, is not seen.
 * Every way is one possibility.
 */
function attachments(box: BoxIndex, old: readonly number[] | undefined): [number, number][][] {
  if (!old) return [[]]
  const number = (letter: string | undefined) => (letter === undefined ? -1 : box.letters.indexOf(letter))
  let ways: [number, number][][] = [[]]
  box.found.oldSwitches.forEach(({ contacts, terminals }, index) => {
    if (contacts === 'other') return
    const positions = contacts === 'single' && !old[index] ? [0] : [0, 1]
    const options = positions.map((position) =>
      switchContacts(contacts, position).flatMap(([a, b]): [number, number][] => {
        const [first, second] = [number(terminals[a]?.[0]), number(terminals[b]?.[0])]
        return first >= 0 && second >= 0 ? [[first, second]] : []
      }),
    )
    ways = ways.flatMap((way) => options.map((option) => [...way, ...option]))
  })
  return ways
}

/** What an arrangement says of a test, as bits, with the old switches attached or not. */
export function allowedBy(box: BoxIndex, runs: readonly CableRun[], test: WireTest, cache: NetCache): number {
  let mask = 0
  attachments(box, test.old).forEach((attached, way) => {
    const key = `${test.far.join()} ${test.old?.join('') ?? ''} ${way}`
    let nets = cache.get(key)
    if (!nets) cache.set(key, (nets = netsOf(box, runs, test.far, attached)))
    mask |= allowed(box, nets, test, 0)
  })
  return mask
}

/** Which outcomes of a test an arrangement allows, as bits. Lamps may be LED, filament, or missing: everything they may do is allowed. */
export function allowed(box: BoxIndex, nets: Nets, test: WireTest, tainted: number): number {
  const at = (end: string) => nets.metal[end === 'REF' ? box.zeroNode : box.letters.indexOf(end)]!
  const a = at(test.a)
  const b = at(test.b)
  const live = (node: number): number => {
    // 0: at zero · 1 + circuit: at that line · -1: neither
    if (node === nets.metal[box.zeroNode]) return 0
    for (let circuit = 0; circuit < box.found.circuits.length; circuit++)
      if (node === nets.metal[box.lineNode + circuit] && test.closed.includes(box.found.circuits[circuit]!)) return 1 + circuit
    return -1
  }
  // Everything reached from a node through lamps and the like, as bits.
  const reach = (from: number): number => {
    let reached = 1 << from
    for (let before = 0; before !== reached;) {
      before = reached
      for (const edge of nets.soft) if (reached & edge) reached |= edge
    }
    return reached
  }
  if (tainted && (reach(a) | reach(b)) & tainted) return allOutcomes[test.kind]
  if (test.kind === 'continuity') {
    if (a === b) return seen.continuity.closed | seen.continuity.low
    const fromA = reach(a)
    const fromB = reach(b)
    // A line that is off still meets zero through whatever else hangs on its circuit.
    let panel = 1 << nets.metal[box.zeroNode]!
    for (let circuit = 0; circuit < box.found.circuits.length; circuit++) panel |= 1 << nets.metal[box.lineNode + circuit]!
    // A heater or many cold lamps read hardly more than metal.
    return fromA & (1 << b) || (fromA & panel && fromB & panel) ? 14 : 4
  }
  const va = live(a)
  const vb = live(b)
  if (test.kind === 'contactless') return va > 0 ? 2 : va === 0 ? 1 : 3
  if (a === b) return 1
  if (va >= 0 && vb >= 0) {
    if (va === vb) return 1
    if (va > 0 && vb > 0) return 9
    return 4
  }
  // A high-impedance meter shows ghosts on whatever floats: it says nothing of such an end.
  if (test.kind === 'voltageHigh') return allOutcomes.voltageHigh
  // One end is at no fixed voltage: alone it reads nothing; through lamps, anything between what holds their other ends.
  let fixed = 1 << nets.metal[box.zeroNode]!
  for (let circuit = 0; circuit < box.found.circuits.length; circuit++)
    if (test.closed.includes(box.found.circuits[circuit]!)) fixed |= 1 << nets.metal[box.lineNode + circuit]!
  const held = (from: number): number => {
    let reached = 1 << from
    for (let before = 0; before !== reached;) {
      before = reached
      for (const edge of nets.soft) if (reached & edge & ~fixed) reached |= edge
    }
    return reached & fixed
  }
  const holders = held(a) | held(b)
  return holders & (holders - 1) ? 7 : 1
}

export type NetCache = Map<string, Nets>
