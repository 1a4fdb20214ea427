import { colourHintRole, yearFactor } from './colour-prior'
import { coursesWith, type CourseShape } from './courses'
import { allOutcomes, isEarthMarked, outcomeOf, seen, testKey, type FoundBox, type WireReading, type WireTest } from './found-box'
import { switchContacts } from '../model'
import { isNeutral, wholeChain, type Course, type WireRole } from './roles'

/** One way a cable may run: which core is what, and what that ties to what. Nodes: letters, then each circuit's line, then zero. */
interface Candidate {
  course: Course
  /** Circuit each core's line or neutral belongs to, else -1. */
  circuits: number[]
  roles: WireRole[]
  links: { a: number; b: number; kind: 'hard' | 'load' | 'maybe'; far: number; when: number }[]
  weight: number
}
/** One arrangement of the whole box that is still possible. */
export interface World {
  candidates: Candidate[]
  /** Readings it does not agree with. */
  misfits: number[]
  weight: number
}

export interface BoxIndex {
  found: FoundBox
  letters: string[]
  cableOf: number[]
  lineNode: number
  zeroNode: number
  nodes: number
  /** Conductors that stay together: splices, and what shares a terminal. */
  joints: string[][]
  spliceOf: number[]
  /** Letters whose splice holds conductors of several cables. */
  shared: boolean[]
}

export function indexBox(found: FoundBox): BoxIndex {
  const letters = found.cables.flatMap((cable) => cable.cores.map((core) => core.letter))
  const cableOf = found.cables.flatMap((cable, index) => cable.cores.map(() => index))
  const joints = [
    ...found.splices,
    // Conductors on one old terminal stay one: the joint is kept with a pigtail.
    ...found.oldSwitches.flatMap((old) => Object.values(old.terminals).filter((group) => group.length > 1)),
  ]
  const spliceOf = letters.map((letter) => joints.findIndex((splice) => splice.includes(letter)))
  const shared = letters.map((_, index) => {
    const splice = spliceOf[index]!
    return splice >= 0 && letters.some((_, other) => spliceOf[other] === splice && cableOf[other] !== cableOf[index])
  })
  return {
    found,
    letters,
    cableOf,
    lineNode: letters.length,
    zeroNode: letters.length + found.circuits.length,
    nodes: letters.length + found.circuits.length + 1,
    joints,
    spliceOf,
    shared,
  }
}

function* permutations(count: number): Generator<number[]> {
  const order = Array.from({ length: count }, (_, index) => index)
  function* walk(at: number): Generator<number[]> {
    if (at === count) {
      yield [...order]
      return
    }
    for (let index = at; index < count; index++) {
      ;[order[at], order[index]] = [order[index]!, order[at]!]
      yield* walk(at + 1)
      ;[order[at], order[index]] = [order[index]!, order[at]!]
    }
  }
  yield* walk(0)
}

/** Every way one cable may run. */
export function candidatesFor(box: BoxIndex, cableIndex: number): Candidate[] {
  const { found } = box
  const cores = found.cables[cableIndex]!.cores
  const start = box.cableOf.indexOf(cableIndex)
  const insulated = cores.flatMap((core, index) => (isEarthMarked(core.colour) ? [] : [index]))
  const all: Candidate[] = []
  const add = (shape: CourseShape, order: number[], circuit: number, second: number, far: number) => {
    const roles: WireRole[] = cores.map((core) => (isEarthMarked(core.colour) ? 'ground' : 'spare'))
    const circuits = cores.map(() => -1)
    let weight = shape.prior * yearFactor(shape.course, found.wiredYear ?? null, found.nominalVolts)
    shape.slots.forEach((role, slot) => {
      const core = insulated[order[slot]!]!
      roles[core] = role
      if (role === 'line' || role === 'neutral') circuits[core] = role === 'line' && slot === 1 && second >= 0 ? second : circuit
      weight *= colourHintRole(cores[core]!.colour, role, found.nominalVolts)
    })
    const node = (end: CourseShape['links'][0]['a']) =>
      end === 'zero'
        ? box.zeroNode
        : end === 'line'
          ? box.lineNode + circuit
          : end === 'line2'
            ? box.lineNode + second
            : start + insulated[order[end]!]!
    const links: Candidate['links'] = shape.links.map((link) => ({
      a: node(link.a),
      b: node(link.b),
      kind: link.kind,
      far: link.when === undefined ? -1 : far,
      when: link.when ?? 0,
    }))
    // The ground of a cable that brings the supply comes from the panel; of the others, through this box.
    if (shape.circuits > 0 || shape.course === 'farTravelersToLight')
      cores.forEach(
        (core, index) => isEarthMarked(core.colour) && links.push({ a: start + index, b: box.zeroNode, kind: 'hard', far: -1, when: 0 }),
      )
    all.push({ course: shape.course, roles, circuits, links, weight })
  }
  const ways = found.oldSwitches.some(({ contacts }) => contacts === 'fourWay') ? 2 : 3
  for (const shape of coursesWith(insulated.length)) {
    if (shape.far && found.farSwitches === 0) continue
    const told = shape.circuits === 2 || shape.links.some((link) => link.when !== undefined)
    const known = new Set<string>()
    for (const order of permutations(insulated.length)) {
      // Spares of one cable are alike, and so are its loads; travelers are told apart by a far switch, lines by their circuit.
      const key = order
        .map((core, slot) => `${core} ${shape.slots[slot] === 'spare' || !told ? shape.slots[slot] : slot}`)
        .sort()
        .join()
      if (known.has(key)) continue
      known.add(key)
      for (let circuit = 0; circuit < (shape.circuits ? found.circuits.length : 1); circuit++)
        for (let second = circuit + 1; second < (shape.circuits === 2 ? found.circuits.length : circuit + 2); second++)
          // The end of a 4-way chain hangs on both other switches at once.
          for (let far = 0; far < (shape.far ? (found.farSwitches === 2 ? ways : 1) : 1); far++)
            add(shape, order, circuit, shape.circuits === 2 ? second : -1, far)
    }
  }
  return all
}

/** Which joint a role may be part of, as bits. */
const hot = 1
const switched = 2
const neutral = 4
const traveler = 16
const families: Record<WireRole, number> = {
  line: hot,
  lineOn: hot,
  farCommon: hot | switched,
  load: switched,
  neutral,
  sharedNeutral: neutral,
  neutralOn: neutral,
  loadOn: switched,
  ground: 8,
  traveler,
  spare: 0,
}

/** The joints of a box as it was found, as letter numbers. */
interface Joints {
  groups: number[][]
  /** All letters that are one metal with a letter, itself included; empty: on no splice and no terminal. */
  metal: number[][]
  old: { contacts: FoundBox['oldSwitches'][0]['contacts']; on: Record<string, number[]> }[]
  /** Letters that are one metal with a terminal of an old switch; of one that is no single-pole, 3-way or 4-way. */
  onOld: Set<number>
  twoPole: Set<number>
}
function jointsOf(box: BoxIndex): Joints {
  const { found } = box
  const number = (letter: string) => box.letters.indexOf(letter)
  const groups = [
    ...found.splices,
    ...found.oldSwitches.flatMap((old) => Object.values(old.terminals).filter((group) => group.length)),
  ].map((group) => group.map(number))
  const metal = box.letters.map((_, letter) => [...new Set(groups.filter((group) => group.includes(letter)).flat())])
  const old = found.oldSwitches.map(({ contacts, terminals }) => ({
    contacts,
    on: Object.fromEntries(
      Object.entries(terminals).map(([name, group]) => [name, [...new Set(group.flatMap((letter) => metal[number(letter)]!))]]),
    ),
  }))
  const lettersOn = (some: typeof old) => new Set(some.flatMap(({ on }) => Object.values(on).flat()))
  return { groups, metal, old, onOld: lettersOn(old), twoPole: lettersOn(old.filter(({ contacts }) => contacts === 'other')) }
}

/** Does every other switch hang on a cable of this box, alone or in a chain, where any does? */
function reachesEveryOther(box: BoxIndex, chosen: readonly Candidate[]): boolean {
  const led = new Set(chosen.flatMap(({ links }) => links.filter(({ far }) => far >= 0).map(({ far }) => far)))
  return (
    led.size === 0 || led.has(wholeChain) || Array.from({ length: box.found.farSwitches }, (_, far) => far).every((far) => led.has(far))
  )
}

/**
 * Would the box have worked as it was found, if its conductors were these?
 * @param upTo the last cable that is laid; what the others are is not asked yet
 */
function workedAsFound(
  box: BoxIndex,
  joints: Joints,
  chosen: readonly Candidate[],
  roles: WireRole[],
  circuits: number[],
  upTo: number,
): boolean {
  const laid = (letter: number) => box.cableOf[letter]! <= upTo
  const familyOf = (letters: number[]) =>
    letters.reduce((common, letter) => (laid(letter) ? common & families[roles[letter]!] : common), 31)
  for (const group of joints.groups) {
    if (!familyOf(group)) return false
    let circuit = -1
    for (const letter of group) {
      if (!laid(letter) || roles[letter] !== 'line') continue
      if (circuit >= 0 && circuits[letter] !== circuit) return false
      circuit = circuits[letter]!
    }
  }
  for (const { contacts, on } of joints.old) {
    const one = (name: string, wanted: number) => !on[name]?.length || (familyOf(on[name]) & wanted) !== 0
    if (contacts === 'single') {
      if (!(one('a', hot) && one('b', switched)) && !(one('b', hot) && one('a', switched))) return false
    } else if (contacts === 'threeWay') {
      const usual = one('common', hot | switched) && one('t1', traveler) && one('t2', traveler)
      const older = one('common', switched) && ((one('t1', hot) && one('t2', neutral)) || (one('t2', hot) && one('t1', neutral)))
      const tied = one('common', traveler) && ((one('t1', hot) && one('t2', switched)) || (one('t2', hot) && one('t1', switched)))
      if (!usual && !older && !tied) return false
    } else if (contacts === 'fourWay' && !['a1', 'a2', 'b1', 'b2'].every((name) => one(name, traveler))) return false
  }
  if (!box.found.complete) return true
  const last = upTo === box.found.cables.length - 1
  if (last && !reachesEveryOther(box, chosen)) return false
  for (let letter = 0; letter < roles.length; letter++) {
    if (!laid(letter)) continue
    const role = roles[letter]!
    const metal = joints.metal[letter]!
    if (role === 'spare' && metal.length) return false
    if (['load', 'loadOn', 'traveler', 'farCommon'].includes(role) && !metal.length) return false
    // Both poles go over a two-pole control.
    if (chosen[box.cableOf[letter]!]!.course.startsWith('twoPole') && role !== 'ground' && !joints.twoPole.has(letter)) return false
    if (!last) continue
    // With tied commons the second switch has the light to itself.
    const end = chosen[box.cableOf[letter]!]!.course === 'farStrapsEnd'
    if (end && role === 'load' && metal.some((other) => other !== letter && roles[other] === 'load')) return false
    // A light is switched here, or at the other location.
    if (role === 'load' && !metal.some((other) => joints.onOld.has(other) || roles[other] === 'farCommon')) return false
    if (role === 'neutralOn' && !metal.some((other) => isNeutral(roles[other]!))) return false
    if (role === 'lineOn' && !metal.some((other) => roles[other] === 'line')) return false
  }
  return true
}

/** Which traveler is picked. */
const farPosition = (far: readonly number[], which: number): number =>
  which === wholeChain ? (far[0] ?? 0) ^ (far[1] ?? 0) : (far[which] ?? 0)
/** Nets of one setting: metal by union, lamps and the like as edges. */
interface Nets {
  metal: Int8Array
  /** Pairs of nodes, each as two bits. */
  soft: number[]
}
function netsOf(
  box: BoxIndex,
  candidates: readonly (Candidate | undefined)[],
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
  for (const candidate of candidates) {
    if (!candidate) continue
    for (const link of candidate.links) {
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
function allowedBy(box: BoxIndex, candidates: readonly Candidate[], test: WireTest, cache: NetCache): number {
  let mask = 0
  attachments(box, test.old).forEach((attached, way) => {
    const key = `${test.far.join()} ${test.old?.join('') ?? ''} ${way}`
    let nets = cache.get(key)
    if (!nets) cache.set(key, (nets = netsOf(box, candidates, test.far, attached)))
    mask |= allowed(box, nets, test, 0)
  })
  return mask
}

/** Which outcomes of a test an arrangement allows, as bits. Lamps may be LED, filament, or missing: everything they may do is allowed. */
function allowed(box: BoxIndex, nets: Nets, test: WireTest, tainted: number): number {
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

/** So many steps are tried for each arrangement that may be kept. */
const triesEach = 20
export interface Search {
  worlds: World[]
  /** All of them were looked at. */
  whole: boolean
}

export interface Weighed {
  test: WireReading
  outcome: number
  /** How often it was read, less the times it was read otherwise. */
  count: number
}
/**
 * Readings that count. What was read twice counts twice; a test that was read one way and then another says nothing until a
 * third reading decides: the newest may be the wrong one.
 */
export function weighReadings(readings: WireReading[], nominalVolts: number): { weighed: Weighed[]; undecided: WireReading[] } {
  const byKey = new Map<string, { test: WireReading; outcomes: Map<number, number> }>()
  for (const reading of readings) {
    const key = testKey(reading)
    const known = byKey.get(key) ?? { test: reading, outcomes: new Map<number, number>() }
    byKey.set(key, known)
    const outcome = outcomeOf(reading.kind, reading.value, nominalVolts)
    known.outcomes.set(outcome, (known.outcomes.get(outcome) ?? 0) + 1)
    if ([...known.outcomes].every(([other, count]) => other === outcome || count < known.outcomes.get(outcome)!)) known.test = reading
  }
  const weighed: Weighed[] = []
  const undecided: WireReading[] = []
  for (const { test, outcomes } of byKey.values()) {
    const [first, second] = [...outcomes].sort((a, b) => b[1] - a[1])
    const count = first![1] - (second?.[1] ?? 0)
    if (count > 0) weighed.push({ test, outcome: first![0], count })
    else undecided.push(test)
  }
  return { weighed, undecided }
}
/**
 * Every arrangement that disagrees with at most `most` readings.
 * @param limit stop after this many; then the search is not whole and nothing may be concluded from it
 */
export function searchWorlds(box: BoxIndex, readings: WireReading[], most: number, limit = 6_000): Search {
  const { weighed } = weighReadings(readings, box.found.nominalVolts)
  const own: Candidate[][] = []
  const counts: number[][] = []
  for (let cable = 0; cable < box.found.cables.length; cable++) {
    const mine = (end: string) => end === 'REF' || box.cableOf[box.letters.indexOf(end)] === cable
    // With the old switches attached one cable is tied to others: such readings are judged in whole arrangements only.
    const tests = weighed.filter(({ test }) => !test.old && mine(test.a) && mine(test.b))
    const kept: Candidate[] = []
    const misfits: number[] = []
    for (const candidate of candidatesFor(box, cable)) {
      const byFar = new Map<string, Nets>()
      let count = 0
      for (const { test, outcome, count: times } of tests) {
        const key = test.far.join()
        let nets = byFar.get(key)
        if (!nets) byFar.set(key, (nets = netsOf(box, [candidate], test.far)))
        let tainted = 0
        box.shared.forEach((is, letter) => is && (tainted |= 1 << nets.metal[letter]!))
        tainted &= ~(1 << nets.metal[box.zeroNode]!)
        for (let circuit = 0; circuit < box.found.circuits.length; circuit++) tainted &= ~(1 << nets.metal[box.lineNode + circuit]!)
        if (!(allowed(box, nets, test, tainted) & outcome)) count += times
        if (count > most) break
      }
      if (count <= most) {
        kept.push(candidate)
        misfits.push(count)
      }
    }
    // The likely ones first: a search that has to be broken off has then seen those.
    const order = kept.map((_, index) => index).sort((x, y) => misfits[x]! - misfits[y]! || kept[y]!.weight - kept[x]!.weight)
    own.push(order.map((index) => kept[index]!))
    counts.push(order.map((index) => misfits[index]!))
  }
  const worlds: World[] = []
  let whole = true
  let looked = 0
  const chosen: Candidate[] = []
  const joints = jointsOf(box)
  const roles: WireRole[] = []
  const circuits: number[] = []
  const starts = box.found.cables.map((_, cable) => box.cableOf.indexOf(cable))
  const walk = (cable: number, spent: number) => {
    if (!whole) return
    if (cable === own.length) {
      const misfits: number[] = []
      let count = 0
      const cache: NetCache = new Map()
      for (let index = 0; index < weighed.length; index++) {
        const { test, outcome, count: times } = weighed[index]!
        if (allowedBy(box, chosen, test, cache) & outcome) continue
        misfits.push(index)
        if ((count += times) > most) return
      }
      if (worlds.length >= limit) {
        whole = false
        return
      }
      worlds.push({
        candidates: [...chosen],
        misfits,
        weight: chosen.reduce((product, candidate) => product * candidate.weight, 1),
      })
      return
    }
    own[cable]!.forEach((candidate, index) => {
      // Counted at every step: most ways end in the middle.
      if (!whole || ++looked > limit * triesEach) {
        whole = false
        return
      }
      chosen.length = cable
      if (spent + counts[cable]![index]! > most) return
      chosen[cable] = candidate
      candidate.roles.forEach((role, at) => {
        roles[starts[cable]! + at] = role
        circuits[starts[cable]! + at] = candidate.circuits[at]!
      })
      if (workedAsFound(box, joints, chosen, roles, circuits, cable)) walk(cable + 1, spent + counts[cable]![index]!)
    })
    chosen.length = cable
  }
  walk(0, 0)
  return { worlds, whole }
}

/** Role and circuit of a letter in an arrangement, as one word: two arrangements agree when these are equal. */
export function roleIn(box: BoxIndex, world: World, letter: string): { role: WireRole; circuit: string | null } {
  const index = box.letters.indexOf(letter)
  const cable = box.cableOf[index]!
  const at = index - box.cableOf.indexOf(cable)
  const candidate = world.candidates[cable]!
  const circuit = candidate.circuits[at]!
  return { role: candidate.roles[at]!, circuit: circuit < 0 ? null : box.found.circuits[circuit]! }
}

/** What an arrangement says of a test, as bits. */
export const foretell = (box: BoxIndex, world: World, test: WireTest, cache: NetCache): number =>
  allowedBy(box, world.candidates, test, cache)
export type NetCache = Map<string, Nets>
