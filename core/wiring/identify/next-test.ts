import { isEarthMarked, outcomeWords, seen, testKey, type AsFoundBox, type WireReading, type WireTest } from './found-box'
import { believe, darkLacks, hasOwnLive, isBetween, metalOf, otherEnd, ownBreakerTells, wordIn, zeroLetters, type Belief } from './identify'
import { isNeutral, wireRoleWords } from './roles'
import type { BoxIndex } from './box-index'
import type { NetCache } from './nets'
import { predict, roleIn, type Arrangement } from './arrangements'

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

/** A test has to tell this much to be made; before the power is asked for, which tells most of it anyway, that much. */
const tellingBits = 0.1
const worthBefore = 0.5
const mostWorlds = 160

const farSettings = (found: AsFoundBox): number[][] =>
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
/** All breakers, and where there are several each by itself. */
const closingsOf = ({ circuits }: AsFoundBox): string[][] =>
  circuits.length > 1 ? [circuits, ...circuits.map((circuit) => [circuit])] : [circuits]
const insulatedOf = (found: AsFoundBox): string[] =>
  found.cables.flatMap((cable) => cable.cores.filter((core) => !isEarthMarked(core.colour)).map((core) => core.letter))
const pairsOf = (found: AsFoundBox) =>
  found.cables.flatMap((cable) => {
    const letters = cable.cores.filter((core) => !isEarthMarked(core.colour)).map((core) => core.letter)
    return letters.flatMap((a, index) => letters.slice(index + 1).map((b) => [a, b] as const))
  })

/** Each insulated conductor with the ground of its own cable: a ground that is none shows twice. */
const groundPairsOf = (found: AsFoundBox) =>
  found.cables.flatMap((cable) => {
    const ground = cable.cores.find((core) => isEarthMarked(core.colour))
    return ground ? cable.cores.filter((core) => !isEarthMarked(core.colour)).map((core) => [core.letter, ground.letter] as const) : []
  })

/** Everything that can be tested with the power off, and on. */
export function possibleTests(found: AsFoundBox): { dead: WireTest[]; live: WireTest[] } {
  const letters = found.cables.flatMap((cable) => cable.cores.map((core) => core.letter))
  const insulated = insulatedOf(found)
  const dead: WireTest[] = []
  const live: WireTest[] = []
  for (const far of farSettings(found)) {
    for (const a of letters) dead.push({ kind: 'continuity', a, b: 'REF', closed: [], far })
    for (const [a, b] of pairsOf(found)) dead.push({ kind: 'continuity', a, b, closed: [], far })
    for (const closed of closingsOf(found)) {
      for (const a of letters) live.push({ kind: 'voltage', a, b: 'REF', closed, far })
      for (const [a, b] of [...pairsOf(found), ...groundPairsOf(found)]) live.push({ kind: 'voltage', a, b, closed, far })
      for (let index = 0; index + 1 < insulated.length; index++)
        if (!pairsOf(found).some(([a, b]) => a === insulated[index] && b === insulated[index + 1]))
          live.push({ kind: 'voltage', a: insulated[index]!, b: insulated[index + 1]!, closed, far })
    }
  }
  return { dead, live }
}
/** One conductor of every joint that stays closed stands for all of it, and every conductor that is in none. */
const metalsOf = ({ letters, joints }: BoxIndex): string[] =>
  letters.filter((letter) => {
    const joint = joints.find((group) => group.includes(letter))
    return !joint || joint[0] === letter
  })
/**
 * May the box be read with its old switches attached? That is the first method of the trade: nothing is taken apart yet, and what
 * is live in both positions is a line, what follows the switch a load. Of a 3-way's lever nobody sees which traveler it picks,
 * so there the conductors come off first.
 */
const attachable = (found: AsFoundBox) => found.oldSwitches.length > 0 && found.oldSwitches.every((old) => old.contacts === 'single')
/** Tests with the old switches still attached. */
function attachedTests(box: BoxIndex): { cover: WireTest[]; more: WireTest[] } {
  const { found } = box
  const on = new Set(found.oldSwitches.flatMap((old) => Object.values(old.terminals).flat()))
  if (!on.size || found.oldSwitches.some((old) => old.contacts === 'other')) return { cover: [], more: [] }
  const metals = metalsOf(box)
  const switched = metals.filter((letter) => on.has(letter))
  const test = (a: string, b: string, closed: string[], far: number[], position: number): WireTest => ({
    kind: 'voltage',
    a,
    b,
    closed,
    far,
    old: found.oldSwitches.map(() => position),
  })
  const all = farSettings(found).flatMap((far) =>
    closingsOf(found).flatMap((closed) =>
      [0, 1].flatMap((position) => [
        ...metals.map((a) => test(a, 'REF', closed, far, position)),
        ...switched.flatMap((a) => metals.filter((b) => b !== a).map((b) => test(a, b, closed, far, position))),
      ]),
    ),
  )
  const covers = ({ a, b, closed, far, old }: WireTest) =>
    b === 'REF' && closed.length === found.circuits.length && far.every((one) => one === 0) && (on.has(a) || old![0] === 0)
  return { cover: all.filter(covers), more: all.filter((one) => !covers(one)) }
}
/** The non-contact tester along each conductor: another instrument, so a second word of its own. */
const screenTests = (live: WireTest[]): WireTest[] =>
  live.filter((test) => test.b === 'REF').map((test): WireTest => ({ ...test, kind: 'contactless' }))
const settingKey = (test: WireTest) => `${[...test.closed].sort().join('+')} ${test.far.join('')} ${test.kind} ${test.old?.join('') ?? ''}`

/** What has to be read once in any case before a box counts as known: an arrangement nobody thought of shows here. */
function coverage(box: BoxIndex): { dead: WireTest[]; live: WireTest[] } {
  const { found } = box
  const { dead, live } = possibleTests(found)
  const metals = metalsOf(box)
  const first = (test: WireTest) => test.b === 'REF' && test.far.every((position) => position === 0)
  return {
    // Dead, every conductor: a joint that was noted and is none shows here.
    dead: dead.filter(first),
    live: live.filter((test) => first(test) && test.closed.length === found.circuits.length && metals.includes(test.a)),
  }
}

const bitsIn = (mask: number) => [1, 2, 4, 8].filter((bit) => mask & bit)

interface Sample {
  arrangement: Arrangement
  weight: number
  /** What it says of the conductors, and of where the cables go. */
  group: string
  way: string
  cache: NetCache
}

function sampleOf(belief: Belief, arrangements: Arrangement[]): Sample[] {
  const { box } = belief
  // Spread over what is left: the likeliest, and every further one at equal steps.
  const sorted = [...arrangements].sort((a, b) => b.weight - a.weight)
  const step = Math.max(1, Math.floor(sorted.length / mostWorlds))
  return sorted
    .filter((_, index) => index % step === 0)
    .slice(0, mostWorlds)
    .map((arrangement) => ({
      arrangement,
      weight: arrangement.weight,
      group: box.letters.map((letter) => wordIn(box, arrangement, letter)).join(';'),
      way: arrangement.runs.map(waysOf).join(';'),
      cache: new Map(),
    }))
}

/** Where a cable goes, and which conductor its other switch takes first: not a role, but what works then depends on it. */
const waysOf = ({ run, links }: Arrangement['runs'][0]) => {
  const first = links.find((link) => link.far >= 0 && link.when === 0)
  return `${run} ${first ? `${first.far} ${first.a} ${first.b}` : ''}`
}
/** A reading between metal and a lamp is seldom seen. */
const rare = (test: WireTest, bit: number) => (test.kind === 'continuity' && bit === seen.continuity.low ? 0.05 : 1)
/** Bits a test is expected to tell about the roles, or about where the cables go. */
function tells(belief: Belief, sample: Sample[], test: WireTest, of: 'group' | 'way'): number {
  const groups = new Map<string, { weight: number; outcome: Record<number, number> }>()
  const all: Record<number, number> = {}
  let sum = 0
  for (const one of sample) {
    const bits = bitsIn(predict(belief.box, one.arrangement, test, one.cache)).map((bit) => ({ bit, share: rare(test, bit) }))
    const shares = bits.reduce((total, { share }) => total + share, 0)
    const group = groups.get(one[of]) ?? { weight: 0, outcome: {} }
    groups.set(one[of], group)
    group.weight += one.weight
    sum += one.weight
    for (const { bit, share } of bits) {
      group.outcome[bit] = (group.outcome[bit] ?? 0) + (one.weight * share) / shares
      all[bit] = (all[bit] ?? 0) + (one.weight * share) / shares
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
  const may = predict(belief.box, leading.arrangement, test, leading.cache)
  // Metal reads as metal, mostly.
  const expected = bitsIn(may).reduce((mask, bit) => (rare(test, bit) < 1 && may !== bit ? mask & ~bit : mask), may)
  return rivals.filter((rival) => (predict(belief.box, rival.arrangement, test, rival.cache) & expected) === 0).length
}

const place = (far: number[]) =>
  far.length === 0
    ? ''
    : far.length === 1
      ? `Set the other switch ${far[0] ? 'down' : 'up'} first. `
      : `Set the other switches ${far.map((position) => (position ? 'down' : 'up')).join(' and ')} first. `

/** How the conductors are held while they are read. */
const looseWords = (found: AsFoundBox) =>
  found.oldSwitches.length
    ? 'conductors off the old switch, what shared a screw kept together, splices left as they are'
    : 'ends apart and capped, splices left as they are'
const attachedWords = (found: AsFoundBox, old: number[]) =>
  `old switch${old.length > 1 ? 'es' : ''} still attached, ${old
    .map((position, index) => (found.oldSwitches[index]?.contacts === 'single' ? (position ? 'on' : 'off') : position ? 'down' : 'up'))
    .join(' and ')}`
/** A test, or a sweep, in words. */
export function describeTest(found: AsFoundBox, tests: WireTest[]): { title: string; how: string } {
  const first = tests[0]!
  const live = first.closed.length > 0
  const power = live
    ? `{Breaker} ${first.closed.join(' and ')} closed${first.closed.length < found.circuits.length ? ', the others open' : ''}: everybody else clear, ${first.old ? attachedWords(found, first.old) : looseWords(found)}; ${first.kind === 'contactless' ? 'it proves nothing alone' : 'low impedance'}, read by the licensed person. `
    : `Power off, locked, proven dead; ${looseWords(found)}. `
  // 4 kilohms from line to ground are 30 mA at 120 V and 58 mA at 230 V.
  const watched = live && first.closed.some((circuit) => found.guards?.[circuit] === 'residualCurrent')
  const trips = watched
    ? '{A rcd} protects this circuit, and low impedance to {ground} may trip it: look after each reading whether it still stands; a zero after a trip says nothing. '
    : ''
  const what = first.kind === 'continuity' ? 'Continuity' : first.kind === 'contactless' ? 'Non-contact tester' : 'Voltage'
  const toGround = tests.filter((test) => test.b === 'REF').map((test) => test.a)
  const between = tests.filter((test) => test.b !== 'REF').map((test) => `${test.a} to ${test.b}`)
  const ends = [
    toGround.length > 1
      ? `${toGround.join(', ')} each to the proven {ground}`
      : toGround.length
        ? `${toGround[0]} to the proven {ground}`
        : '',
    between.join(', '),
  ]
    .filter(Boolean)
    .join('; ')
  return {
    title: `${what}: ${tests.length > 4 ? `${tests.length} readings` : ends}`,
    how: `${power}${trips}${place(first.far)}`.trim(),
  }
}

function meaningsOf(belief: Belief, sample: Sample[], test: WireTest): NextTest['meanings'] {
  const meanings: NextTest['meanings'] = []
  for (const bit of [1, 2, 4, 8]) {
    const word = outcomeWords[test.kind][bit]
    if (!word) continue
    const agreeing = sample.filter((one) => predict(belief.box, one.arrangement, test, one.cache) & bit)
    if (!agreeing.length) continue
    const said = [test.a, test.b]
      .filter((letter) => letter !== 'REF')
      .map((letter) => {
        const roles = new Set(agreeing.map((one) => roleIn(belief.box, one.arrangement, letter).role))
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
 * @param known what the readings say, if that was computed; and whether the conductors are off the old switches already
 */
export function nextTest(
  found: AsFoundBox,
  readings: WireReading[],
  energised: boolean,
  known: { belief?: Belief; apart?: boolean } = {},
): Advice {
  const belief = known.belief ?? believe(found, readings)
  const { findings } = belief
  if (findings.state === 'stop') return { done: true, found: false }
  const done = new Set(readings.map(testKey))
  const lastFar = readings.at(-1)?.far.join('') ?? ''
  /** How long it takes, minutes: good enough to tell tests apart. Common practice, no source. */
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
    // Just as it was read: with the old switches attached, if they were.
    const { value: _, ...again } = odd
    return give([again], 'repeat', 0)
  }
  const { dead, live } = possibleTests(found)
  const fresh = (tests: WireTest[]) => tests.filter((test) => !done.has(testKey(test)))
  const must = coverage(belief.box)
  const attached = attachedTests(belief.box)
  // Once the conductors are off the old switches they stay off, unless nothing else tells.
  const stillAttached = !known.apart && attachable(found) && readings.every((reading) => reading.old !== undefined)
  const coveredAttached =
    attachable(found) && fresh(attached.cover.filter((test) => test.old![0] === 0)).length === 0 && readings.some((one) => one.old?.[0])
  const best = (tests: WireTest[], least: number, of: 'group' | 'way'): { test: WireTest; bits: number } | null => {
    let top: { test: WireTest; bits: number; minutes: number } | null = null
    for (const test of fresh(tests)) {
      const bits = tells(belief, sample, test, of)
      if (bits < least) continue
      const minutes = minutesFor([test])
      if (!top || bits > top.bits + 1e-9 || (bits > top.bits - 1e-9 && minutes < top.minutes)) top = { test, bits, minutes }
    }
    return top
  }
  const open = findings.wires.some((wire) => !wire.settled && !wire.joint)
  const rivals =
    open && belief.fitting.length
      ? sampleOf(
          belief,
          belief.nearly.filter((arrangement) => arrangement.misfits.length > 0 && differs(belief, arrangement)),
        )
      : []
  const confirming = (tests: WireTest[]): WireTest | null => {
    if (!rivals.length) return null
    const counted = fresh(tests).map((test) => ({ test, count: refutes(belief, rivals, sample[0]!, test), minutes: minutesFor([test]) }))
    counted.sort((a, b) => b.count - a.count || a.minutes - b.minutes)
    return counted[0] && counted[0].count > 0 ? counted[0].test : null
  }
  /** A live reading that a line or neutral still lacks of its own: against another end, or with the old switch the other way. */
  const ownReading = (tests: WireTest[]): WireTest | null => {
    const live = seen.voltage.nominal | seen.voltage.double
    for (const { letter, guesses, settled, joint } of findings.wires) {
      const roles = new Set(guesses.map((guess) => guess.role))
      const role = [...roles].every((one) => one === 'line' || one === 'lineOn')
        ? 'line'
        : [...roles].every((one) => isNeutral(one) || one === 'neutralOn')
          ? 'neutral'
          : null
      const metal = metalOf(belief.box, letter)
      if (settled || joint || !role || (metal.length < 2 && roles.size > 1)) continue
      if ((role === 'neutral' && ![...roles].some(isNeutral)) || (role === 'line' && !roles.has('line'))) continue
      const circuits = new Set(guesses.flatMap((guess) => guess.circuit ?? []))
      const circuit = circuits.size === 1 ? [...circuits][0]! : ''
      if (hasOwnLive(belief.counted, metal, role, found.nominalVolts)) {
        if (role !== 'line' || ownBreakerTells(found, belief.counted, metal, circuit)) continue
        const others = ({ a, b, closed }: WireTest) => b === 'REF' && metal.includes(a) && closed.length > 0 && !closed.includes(circuit)
        const dark = fresh(tests).find((test) => test.kind === 'voltage' && others(test))
        if (dark) return dark
        continue
      }
      const touches = fresh(tests).filter((test) => test.kind === 'voltage' && otherEnd(test, metal) !== null)
      const shows = touches.find(
        (test) => (role === 'line' || test.b !== 'REF') && leading && predict(belief.box, leading.arrangement, test, leading.cache) & live,
      )
      if (shows) return shows
    }
    return null
  }
  const leading = sample[0]
  /** A second reading that shows a load, a spare or a ground dead while the power is on, or a spare apart from ground. */
  const darkReading = (tests: WireTest[]): WireTest | null => {
    if (!leading) return null
    const zero = zeroLetters(belief.box, belief.fitting)
    const predicted = (test: WireTest) => predict(belief.box, leading.arrangement, test, leading.cache)
    /** Will this ground be shown to be one metal with the reference, without power? */
    const soonShown = (metal: string[]) => {
      const test: WireTest = { kind: 'continuity', a: metal[0]!, b: 'REF', closed: [], far: farSettings(found)[0]! }
      return !done.has(testKey(test)) && predicted(test) === seen.continuity.closed
    }
    const lacking = findings.wires.flatMap(({ letter, guesses, settled, joint }) => {
      const metal = metalOf(belief.box, letter)
      const roles = [...new Set(guesses.map(({ role }) => role))]
      const lacks = roles.flatMap((role) => darkLacks(belief.box, belief.weighed, metal, zero, role) ?? [])
      if (settled || joint || !roles.length || lacks.length < roles.length) return []
      const first = lacks.find(({ reading }) => reading === 'dark') ?? lacks[0]!
      return roles.every((role) => role === 'ground') && soonShown(metal) ? [] : [{ metal, ...first }]
    })
    for (const { metal, reading, ends } of lacking) {
      const [kind, closed, wanted] =
        reading === 'dark'
          ? (['voltage', found.circuits.length, seen.voltage.zero] as const)
          : (['continuity', 0, seen.continuity.open] as const)
      const shows = tests.filter(
        (test) =>
          test.kind === kind && test.closed.length === closed && ends.includes(otherEnd(test, metal) ?? '') && predicted(test) === wanted,
      )
      const next = fresh(shows)[0] ?? shows[0]
      if (next) return next
    }
    return null
  }
  const sweep = (tests: WireTest[]): WireTest[] => {
    const left = fresh(tests)
    const first = left.find((test) => test.far.join('') === lastFar) ?? left[0]
    return first ? left.filter((test) => settingKey(test) === settingKey(first)) : []
  }
  const insulated = insulatedOf(found)
  const across = insulated.flatMap((a, index) =>
    insulated.slice(index + 1).map((b): WireTest => ({ kind: 'voltage', a, b, closed: found.circuits, far: farSettings(found)[0]! })),
  )
  const find = (tests: WireTest[], least = tellingBits, of: 'group' | 'way' = 'group'): Advice | null => {
    const telling = best(tests, least, of)
    return telling && give([telling.test], 'find', telling.bits)
  }
  const confirm = (tests: WireTest[]): Advice | null => {
    const test = confirming(tests) ?? ownReading(tests) ?? darkReading(tests)
    return test && give([test], 'confirm', 0)
  }
  /** Two lines that share a neutral: on two legs it carries their difference, on one their sum. */
  const betweenLegs = (tests: WireTest[]): Advice | null => {
    const best = findings.best.find(({ run, legs }) => run === 'sharedFeed' && legs === null)
    if (!best) return null
    const [a, b] = best.roles.flatMap((role, at) => {
      const letter = found.cables[findings.best.indexOf(best)]!.cores[at]!.letter
      return role === 'line' ? [metalOf(belief.box, letter)] : []
    })
    const test = fresh(tests).find((one) => one.closed.length === found.circuits.length && isBetween(one, a!, b!))
    return test ? give([test], 'find', 0) : null
  }
  /** With several breakers: what the breakers as they stand can still tell comes first, for each change is a closing more. */
  const asTheyStand = (tests: WireTest[]): Advice | null => {
    const { closed } = readings.at(-1) ?? { closed: [] }
    if (!energised || !closed.length || found.circuits.length < 2) return null
    const here = tests.filter((test) => test.closed.join() === closed.join())
    return find(here) ?? confirm(here)
  }
  const attachedSteps = (): Advice | null => {
    // What is live with the switch off need not be read with it on.
    const lit = belief.weighed.filter(({ test, outcome }) => test.old && outcome >= seen.voltage.nominal).map(({ test }) => testKey(test))
    const cover = sweep(attached.cover.filter((test) => !lit.includes(testKey({ ...test, old: test.old!.map(() => 0) }))))
    if (cover.length) return give(cover, 'cover', 0)
    const all = [...attached.cover, ...attached.more]
    return asTheyStand(all) ?? find(all) ?? confirm(all) ?? betweenLegs(all)
  }
  const deadSteps = (): Advice | null => {
    // A line or a load that the power has shown shows nothing new without it, nor does a ground by itself that was dead twice.
    const shown = findings.wires
      .filter(({ letter, settled }) => {
        const role = settled?.role
        return role === 'line' || role === 'load' || (role === 'ground' && metalOf(belief.box, letter).length === 1)
      })
      .map(({ letter }) => letter)
    const cover = sweep(must.dead.filter(({ a }) => !shown.includes(a)))
    // The power is needed in any case: what it will tell is not asked for without it.
    const covered = coveredAttached || !sweep(must.live).length
    return cover.length ? give(cover, 'cover', 0) : find(dead, covered ? tellingBits : worthBefore)
  }
  const liveSteps = (): Advice | null => {
    const cover = coveredAttached ? [] : sweep(must.live)
    if (cover.length) return give(cover, 'cover', 0)
    return (
      asTheyStand([...live, ...across]) ?? find(live) ?? confirm([...live, ...across]) ?? betweenLegs(across) ?? confirm(screenTests(live))
    )
  }
  if (stillAttached) {
    const step = attachedSteps()
    if (step) return step
  }
  const step = energised && !stillAttached ? (liveSteps() ?? deadSteps()) : (deadSteps() ?? liveSteps())
  if (step) return step
  // What is left: which way another switch stands when it picks which traveler.
  const way = find(energised ? live : dead, worthBefore, 'way')
  if (way) return way
  const toGround = groundPairsOf(found).map(([a, b]): WireTest => ({ kind: 'continuity', a, b, closed: [], far: farSettings(found)[0]! }))
  const last = confirm([...dead, ...toGround]) ?? confirm([...attached.cover, ...attached.more])
  return last ?? { done: true, found: true }
}

/** Does an arrangement say otherwise of a conductor on which all that fit agree? */
function differs(belief: Belief, arrangement: Arrangement): boolean {
  const vital = (word: string) => /^(joint (?!load)|line|neutral|sharedNeutral)/.test(word)
  return belief.box.letters.some((letter) => {
    const first = wordIn(belief.box, belief.fitting[0]!, letter)
    const here = wordIn(belief.box, arrangement, letter)
    return first !== here && (vital(first) || here.startsWith('line ') || here.startsWith('joint line'))
  })
}

/** What a meter should show at a pair, by everything that is still possible: the outcomes, as words. */
export function predictedAt(belief: Belief, test: WireTest): string[] {
  let mask = 0
  for (const one of sampleOf(belief, belief.fitting)) mask |= predict(belief.box, one.arrangement, test, one.cache)
  return bitsIn(mask).flatMap((bit) => outcomeWords[test.kind][bit] ?? [])
}
