import { isEarthMarked, outcomeWords, testKey, type FoundBox, type WireReading, type WireTest } from './found-box'
import { believe, hasOwnLive, type Belief } from './identify'
import { wireRoleWords } from './roles'
import { foretell, roleIn, weighReadings, type NetCache, type World } from './worlds'

export interface NextTest {
  /** One test, or a sweep of several with everything standing the same. */
  tests: WireTest[]
  energised: boolean
  /** find: tells most · confirm: a second, independent reading · cover: everything else once, so that a surprise shows · repeat: fits nothing. */
  purpose: 'find' | 'confirm' | 'cover' | 'repeat'
  bits: number
  minutes: number
  title: string
  how: string
  /** For a single test: what each outcome would mean. */
  meanings: { outcome: string; means: string }[]
}
export type Advice = { done: true; found: boolean } | { done: false; next: NextTest }

/** A dead test has to tell this much to be made before the power is asked for. */
const tellingBits = 0.1
const mostWorlds = 160

const farSettings = (found: FoundBox): number[][] =>
  found.farSwitches === 0
    ? [[]]
    : found.farSwitches === 1
      ? [[0], [1]]
      : [
          [0, 0],
          [1, 0],
          [0, 1],
          [1, 1],
        ]
const pairsOf = (found: FoundBox) =>
  found.cables.flatMap((cable) => {
    const letters = cable.cores.filter((core) => !isEarthMarked(core.colour)).map((core) => core.letter)
    return letters.flatMap((a, index) => letters.slice(index + 1).map((b) => [a, b] as const))
  })

/** Each insulated conductor with the ground of its own cable: a ground that is none shows twice. */
const groundPairsOf = (found: FoundBox) =>
  found.cables.flatMap((cable) => {
    const ground = cable.cores.find((core) => isEarthMarked(core.colour))
    return ground ? cable.cores.filter((core) => !isEarthMarked(core.colour)).map((core) => [core.letter, ground.letter] as const) : []
  })

/** Everything that can be tested with the power off, and on. */
export function possibleTests(found: FoundBox): { dead: WireTest[]; live: WireTest[] } {
  const letters = found.cables.flatMap((cable) => cable.cores.map((core) => core.letter))
  const insulated = found.cables.flatMap((cable) => cable.cores.filter((core) => !isEarthMarked(core.colour)).map((core) => core.letter))
  const closings = found.circuits.length > 1 ? [found.circuits, ...found.circuits.map((circuit) => [circuit])] : [found.circuits]
  const dead: WireTest[] = []
  const live: WireTest[] = []
  for (const far of farSettings(found)) {
    for (const a of letters) dead.push({ kind: 'continuity', a, b: 'REF', closed: [], far })
    for (const [a, b] of pairsOf(found)) dead.push({ kind: 'continuity', a, b, closed: [], far })
    for (const closed of closings) {
      for (const a of letters) live.push({ kind: 'voltage', a, b: 'REF', closed, far })
      for (const [a, b] of [...pairsOf(found), ...groundPairsOf(found)]) live.push({ kind: 'voltage', a, b, closed, far })
      for (let index = 0; index + 1 < insulated.length; index++)
        if (!pairsOf(found).some(([a, b]) => a === insulated[index] && b === insulated[index + 1]))
          live.push({ kind: 'voltage', a: insulated[index]!, b: insulated[index + 1]!, closed, far })
    }
  }
  return { dead, live }
}
/** Tests with the old switches still attached: what is live in both positions is line, what follows the switch is load. */
function attachedTests(found: FoundBox): WireTest[] {
  const on = [...new Set(found.oldSwitches.flatMap((old) => Object.values(old.terminals).flat()))]
  if (!on.length || found.oldSwitches.some((old) => old.contacts === 'other')) return []
  return farSettings(found).flatMap((far) =>
    [0, 1].flatMap((position) =>
      on.map((a): WireTest => ({ kind: 'voltage', a, b: 'REF', closed: found.circuits, far, old: found.oldSwitches.map(() => position) })),
    ),
  )
}
/** The non-contact tester along each conductor: another instrument, so a second word of its own. */
const screenTests = (live: WireTest[]): WireTest[] =>
  live.filter((test) => test.b === 'REF').map((test): WireTest => ({ ...test, kind: 'contactless' }))
const settingKey = (test: WireTest) => `${[...test.closed].sort().join('+')} ${test.far.join('')} ${test.kind} ${test.old?.join('') ?? ''}`

/** What has to be read once in any case before a box counts as known: an arrangement nobody thought of shows here. */
function coverage(found: FoundBox): { dead: WireTest[]; live: WireTest[] } {
  const { dead, live } = possibleTests(found)
  const pairs = new Set([...pairsOf(found), ...groundPairsOf(found)].map(([a, b]) => `${a} ${b}`))
  return {
    dead: dead.filter((test) => (test.b === 'REF' ? test.far.every((position) => position === 0) : true)),
    live: live.filter(
      (test) =>
        test.b === 'REF' ||
        (pairs.has(`${test.a} ${test.b}`) && test.closed.length === found.circuits.length && test.far.every((position) => position === 0)),
    ),
  }
}

const bitsIn = (mask: number) => [1, 2, 4, 8].filter((bit) => mask & bit)

interface Sample {
  world: World
  weight: number
  group: string
  cache: NetCache
}

function sampleOf(belief: Belief, worlds: World[]): Sample[] {
  const { box } = belief
  // Spread over what is left: the likeliest, and every further one at equal steps.
  const sorted = [...worlds].sort((a, b) => b.weight - a.weight)
  const step = Math.max(1, Math.floor(sorted.length / mostWorlds))
  return sorted
    .filter((_, index) => index % step === 0)
    .slice(0, mostWorlds)
    .map((world) => ({
      world,
      weight: world.weight,
      group: box.letters.map((letter) => Object.values(roleIn(box, world, letter)).join(':')).join(' '),
      cache: new Map(),
    }))
}

/** Bits a test is expected to tell about the roles. */
function tells(belief: Belief, sample: Sample[], test: WireTest): number {
  const groups = new Map<string, { weight: number; outcome: Record<number, number> }>()
  const all: Record<number, number> = {}
  let sum = 0
  for (const one of sample) {
    const bits = bitsIn(foretell(belief.box, one.world, test, one.cache))
    const group = groups.get(one.group) ?? { weight: 0, outcome: {} }
    groups.set(one.group, group)
    group.weight += one.weight
    sum += one.weight
    for (const bit of bits) {
      group.outcome[bit] = (group.outcome[bit] ?? 0) + one.weight / bits.length
      all[bit] = (all[bit] ?? 0) + one.weight / bits.length
    }
  }
  const entropy = (outcome: Record<number, number>, total: number) =>
    Object.values(outcome).reduce((bits, weight) => bits - (weight / total) * Math.log2(weight / total), 0)
  let left = 0
  for (const group of groups.values()) left += (group.weight / sum) * entropy(group.outcome, group.weight)
  return Math.max(0, entropy(all, sum) - left)
}

/** How many arrangements that would need one wrong reading, and say otherwise, a test would put to a second one. */
function refutes(belief: Belief, rivals: Sample[], leading: Sample, test: WireTest): number {
  const expected = foretell(belief.box, leading.world, test, leading.cache)
  return rivals.filter((rival) => (foretell(belief.box, rival.world, test, rival.cache) & expected) === 0).length
}

const place = (far: number[]) =>
  far.length === 0
    ? ''
    : far.length === 1
      ? `Set the other switch ${far[0] ? 'down' : 'up'} first. `
      : `Set the other switches ${far.map((position) => (position ? 'down' : 'up')).join(' and ')} first. `

/** How the conductors are held while they are read. */
const looseWords = (found: FoundBox) =>
  found.oldSwitches.length
    ? 'conductors off the old switch, what shared a screw kept together, splices left as they are'
    : 'ends apart and capped, splices left as they are'
const attachedWords = (found: FoundBox, old: number[]) =>
  `old switch${old.length > 1 ? 'es' : ''} still attached, ${old
    .map((position, index) => (found.oldSwitches[index]?.contacts === 'single' ? (position ? 'on' : 'off') : position ? 'down' : 'up'))
    .join(' and ')}`
/** A test, or a sweep, in words. */
export function describeTest(found: FoundBox, tests: WireTest[]): { title: string; how: string } {
  const first = tests[0]!
  const live = first.closed.length > 0
  const power = live
    ? `Breaker ${first.closed.join(' and ')} closed${first.closed.length < found.circuits.length ? ', the others open' : ''}: everybody else clear, ${first.old ? attachedWords(found, first.old) : looseWords(found)}; ${first.kind === 'contactless' ? 'it proves nothing alone' : 'low impedance'}, read by the licensed person. `
    : 'Power off, locked, proven dead. '
  const what = first.kind === 'continuity' ? 'Continuity' : first.kind === 'contactless' ? 'Non-contact tester' : 'Voltage'
  const toGround = tests.filter((test) => test.b === 'REF').map((test) => test.a)
  const between = tests.filter((test) => test.b !== 'REF').map((test) => `${test.a} to ${test.b}`)
  const ends = [
    toGround.length > 1 ? `${toGround.join(', ')} each to the proven ground` : toGround.length ? `${toGround[0]} to the proven ground` : '',
    between.join(', '),
  ]
    .filter(Boolean)
    .join('; ')
  return {
    title: `${what}: ${tests.length > 4 ? `${tests.length} readings` : ends}`,
    how: `${power}${place(first.far)}${tests.length > 4 ? `Read ${ends}.` : ''}`.trim(),
  }
}

function meaningsOf(belief: Belief, sample: Sample[], test: WireTest): NextTest['meanings'] {
  const meanings: NextTest['meanings'] = []
  for (const bit of [1, 2, 4, 8]) {
    const word = outcomeWords[test.kind][bit]
    if (!word) continue
    const agreeing = sample.filter((one) => foretell(belief.box, one.world, test, one.cache) & bit)
    if (!agreeing.length) continue
    const said = [test.a, test.b]
      .filter((letter) => letter !== 'REF')
      .map((letter) => {
        const roles = new Set(agreeing.map((one) => roleIn(belief.box, one.world, letter).role))
        return roles.size === 1
          ? `${letter} is ${wireRoleWords[[...roles][0]!]}`
          : roles.size <= 3
            ? `${letter} is ${[...roles].map((role) => wireRoleWords[role]).join(' or ')}`
            : ''
      })
      .filter(Boolean)
    meanings.push({ outcome: word, means: said.length ? said.join('; ') : `${agreeing.length} of ${sample.length} arrangements stay` })
  }
  return meanings
}

/**
 * The next best test. Dead tests that tell enough come first, then readings within an energised period that is needed anyway,
 * then a new one; among equals the shorter. Ends when everything that can be told is told, once and, for line and neutral, twice.
 * @param energised a live period is going on now
 */
export function nextTest(found: FoundBox, readings: WireReading[], energised: boolean, known?: Belief): Advice {
  const belief = known ?? believe(found, readings)
  const { findings } = belief
  if (findings.state === 'stop') return { done: true, found: false }
  const done = new Set(weighReadings(readings, found.nominalVolts).map(({ test }) => testKey(test)))
  const lastFar = readings.at(-1)?.far.join('') ?? ''
  const minutesFor = (tests: WireTest[]) =>
    0.5 +
    (tests[0]!.kind === 'contactless' ? 0.1 : 0.25) * tests.length +
    // Conductors have to go back on the old switches first.
    (tests[0]!.old && !readings.at(-1)?.old ? 4 : 0) +
    (tests[0]!.far.join('') !== lastFar ? 1.5 : 0) +
    (tests[0]!.closed.length && !energised ? 6 : 0)
  const sample = sampleOf(belief, belief.fitting.length ? belief.fitting : belief.nearly)
  const give = (tests: WireTest[], purpose: NextTest['purpose'], bits: number): Advice => ({
    done: false,
    next: {
      tests,
      energised: tests[0]!.closed.length > 0,
      purpose,
      bits,
      minutes: minutesFor(tests),
      ...describeTest(found, tests),
      meanings: tests.length === 1 && sample.length ? meaningsOf(belief, sample, tests[0]!) : [],
    },
  })
  if (findings.state === 'odd') {
    const odd = findings.odd.find((test) => test.closed.length > 0 === energised) ?? findings.odd[0]!
    return give([{ kind: odd.kind, a: odd.a, b: odd.b, closed: odd.closed, far: odd.far }], 'repeat', 0)
  }
  const { dead, live } = possibleTests(found)
  const fresh = (tests: WireTest[]) => tests.filter((test) => !done.has(testKey(test)))
  const must = coverage(found)
  const best = (tests: WireTest[]): { test: WireTest; bits: number } | null => {
    let top: { test: WireTest; bits: number; minutes: number } | null = null
    for (const test of fresh(tests)) {
      const bits = tells(belief, sample, test)
      if (bits < tellingBits) continue
      const minutes = minutesFor([test])
      if (!top || bits > top.bits + 1e-9 || (bits > top.bits - 1e-9 && minutes < top.minutes)) top = { test, bits, minutes }
    }
    return top
  }
  const open = findings.wires.some((wire) => !wire.settled)
  const rivals =
    open && belief.fitting.length
      ? sampleOf(
          belief,
          belief.nearly.filter((world) => world.misfits.length > 0 && differs(belief, world)),
        )
      : []
  const confirming = (tests: WireTest[]): WireTest | null => {
    if (!rivals.length) return null
    const counted = fresh(tests).map((test) => ({ test, count: refutes(belief, rivals, sample[0]!, test), minutes: minutesFor([test]) }))
    counted.sort((a, b) => b.count - a.count || a.minutes - b.minutes)
    return counted[0] && counted[0].count > 0 ? counted[0].test : null
  }
  /** A live reading that a line or neutral still lacks of its own: against another end, or with the old switch the other way. */
  const ownReading = (): WireTest | null => {
    const insulated = found.cables.flatMap((cable) => cable.cores.filter((core) => !isEarthMarked(core.colour)).map((core) => core.letter))
    const voltage = (a: string, b: string): WireTest => ({ kind: 'voltage', a, b, closed: found.circuits, far: farSettings(found)[0]! })
    for (const { letter, guesses, settled } of findings.wires) {
      const role = guesses.length === 1 ? guesses[0]!.role : null
      if (settled || (role !== 'line' && role !== 'neutral') || hasOwnLive(readings, letter, role, found.nominalVolts)) continue
      const others = insulated.filter((other) => other !== letter).map((other) => voltage(letter, other))
      const [next] = fresh([...live.filter((test) => test.a === letter || test.b === letter), ...others, ...attachedTests(found)])
      if (next) return next
    }
    return null
  }
  const sweep = (tests: WireTest[]): WireTest[] => {
    const left = fresh(tests)
    const first = left.find((test) => test.far.join('') === lastFar) ?? left[0]
    return first ? left.filter((test) => settingKey(test) === settingKey(first)) : []
  }
  const liveSweepWith = (test: WireTest) => {
    const together = fresh(must.live).filter((other) => settingKey(other) === settingKey(test) && other.b === 'REF')
    return test.b === 'REF' && together.length ? together : [test]
  }
  const deadSteps = (): Advice | null => {
    const telling = best(dead)
    if (telling) return give([telling.test], 'find', telling.bits)
    const cover = sweep(must.dead)
    return cover.length ? give(cover, 'cover', 0) : null
  }
  const liveSteps = (): Advice | null => {
    const telling = best(live)
    if (telling) return give(liveSweepWith(telling.test), 'find', telling.bits)
    const cover = sweep(must.live)
    if (cover.length) return give(cover, 'cover', 0)
    const confirm = confirming([...live, ...screenTests(live)]) ?? confirming(attachedTests(found)) ?? ownReading()
    return confirm ? give([confirm], 'confirm', 0) : null
  }
  const step = energised ? (liveSteps() ?? deadSteps()) : (deadSteps() ?? liveSteps())
  if (step) return step
  const confirm = confirming(dead)
  if (confirm) return give([confirm], 'confirm', 0)
  return { done: true, found: true }
}

/** Does an arrangement say otherwise of a conductor on which all that fit agree? */
function differs(belief: Belief, world: World): boolean {
  return belief.box.letters.some((letter) => {
    const leading = belief.fitting[0]!
    const first = roleIn(belief.box, leading, letter)
    const here = roleIn(belief.box, world, letter)
    const matters = first.role === 'line' || first.role === 'neutral' || here.role === 'line'
    return matters && (first.role !== here.role || first.circuit !== here.circuit)
  })
}

/** What a meter should show at a pair, by everything that is still possible: the outcomes, as words. */
export function expectedAt(belief: Belief, test: WireTest): string[] {
  let mask = 0
  for (const one of sampleOf(belief, belief.fitting)) mask |= foretell(belief.box, one.world, test, one.cache)
  return bitsIn(mask).flatMap((bit) => outcomeWords[test.kind][bit] ?? [])
}
