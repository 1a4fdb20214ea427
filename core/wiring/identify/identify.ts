import { outcomeOf, seen, type AsFoundBox, type WireReading, type WireTest } from './found-box'
import { indexBox, type BoxIndex } from './box-index'
import { weighReadings, type Weighed } from './weigh'
import { roleIn, searchArrangements, type Arrangement } from './arrangements'
import { isNeutral, type RunKind, type WireRole } from './roles'

export interface RoleGuess {
  role: WireRole
  circuit: string | null
  /** Share of the weight of what is left: orders the checks, proves nothing. */
  share: number
}
export interface WireFinding {
  letter: string
  /** Established: every arrangement that fits says so; for line and neutral even if any one reading were wrong. */
  settled: { role: WireRole; circuit: string | null } | null
  guesses: RoleGuess[]
  /** Its splice is one metal with a line or a neutral, even if any one reading were wrong; which conductor brings it may be open. */
  joint: { role: 'line' | 'neutral' | 'sharedNeutral' | 'load'; circuit: string | null } | null
  /** Readings that touch this conductor. */
  readings: number
  /** One agreement short: every arrangement that fits says so, but one wrong reading could hide another. */
  onceMore: boolean
}
/** One cable of the likeliest arrangement. */
export interface BestCable {
  run: RunKind
  roles: WireRole[]
  circuits: (string | null)[]
  /** Which other switch it leads to, and the conductor that switch takes in its position 0. */
  far: number | null
  firstTraveler: string | null
  /** Of a multi-wire feed: its two lines on two legs (or phases), or on one, as it was read. */
  legs: 'apart' | 'together' | null
}
export interface Findings {
  /** open: go on · odd: one reading fits nothing, repeat it · stop: nothing fits, call the licensed lead. */
  state: 'open' | 'odd' | 'stop'
  wires: WireFinding[]
  /** How many arrangements are left, without any wrong reading. */
  left: number
  /** All that are left were looked at; else nothing is concluded. */
  whole: boolean
  /** The likeliest arrangement that fits, cable by cable. */
  best: BestCable[]
  /** Once everything is known: a few others that fit as well, and say otherwise which of two spliced feeds brings the power, say. */
  others: BestCable[][]
  /** Readings that stand against the best explanation. */
  odd: WireReading[]
}

export interface Belief {
  box: BoxIndex
  /** The readings that count. */
  counted: WireReading[]
  weighed: Weighed[]
  /** Arrangements that agree with everything. */
  fitting: Arrangement[]
  /** Arrangements that disagree with one reading at most. */
  nearly: Arrangement[]
  whole: boolean
  findings: Findings
}

/** So many other arrangements a plan is judged by. */
const mostOthers = 5

const sameRole = (box: BoxIndex, arrangements: Arrangement[], letter: string) => {
  const first = roleIn(box, arrangements[0]!, letter)
  return arrangements.every((arrangement) => {
    const here = roleIn(box, arrangement, letter)
    return here.role === first.role && here.circuit === first.circuit
  })
    ? first
    : null
}

/** The letters of a splice with conductors of several cables, which stays closed: one metal. Else the conductor alone. */
export function metalOf(box: BoxIndex, letter: string): string[] {
  const index = box.letters.indexOf(letter)
  return box.shared[index] ? box.letters.filter((_, other) => box.spliceOf[other] === box.spliceOf[index]) : [letter]
}
/**
 * What an arrangement says of a conductor, as far as a meter here can tell: in a splice that stays closed, what the splice
 * carries; which of its conductors brings it does not show until it is opened.
 */
export function wordIn(box: BoxIndex, arrangement: Arrangement, letter: string): string {
  const word = (other: string) => {
    const { role, circuit } = roleIn(box, arrangement, other)
    return `${role} ${circuit ?? ''}`
  }
  const sources = metalOf(box, letter)
    .map(word)
    .filter((one) => one.startsWith('line ') || isNeutral(one.split(' ')[0]!))
  const own = word(letter)
  if (metalOf(box, letter).length < 2) return own
  const role = own.split(' ')[0]!
  if (role === 'load' || role === 'loadOn') return 'joint load '
  const carried = sources.length && ['line', 'lineOn', 'farCommon', 'neutral', 'sharedNeutral', 'neutralOn'].includes(role)
  return carried ? `joint ${[...new Set(sources)].sort().join(' + ')}` : own
}
/** The line or neutral that a conductor's splice carries in every arrangement. */
function jointOf(box: BoxIndex, arrangements: Arrangement[], letter: string, readings: WireReading[]): WireFinding['joint'] {
  const group = metalOf(box, letter)
  const words = new Set(arrangements.map((arrangement) => wordIn(box, arrangement, letter)))
  const [word] = words
  if (words.size !== 1 || !word?.startsWith('joint ')) return null
  const sources = word.slice('joint '.length).split(' + ')
  const role = sources[0]!.split(' ')[0] as NonNullable<WireFinding['joint']>['role']
  if (role === 'load') return { role, circuit: null }
  const circuits = [...new Set(sources.map((source) => source.split(' ')[1]!))].filter(Boolean)
  const circuit = circuits.join(' and ') || null
  return liveEnough(box, readings, group, role, circuit) ? { role, circuit } : null
}
const liveEnough = ({ found }: BoxIndex, readings: WireReading[], metal: string[], role: WireRole, circuit: string | null): boolean =>
  hasOwnLive(readings, metal, role, found.nominalVolts) && (role !== 'line' || ownBreakerTells(found, readings, metal, circuit ?? ''))

/** Readings of this conductor itself, with a breaker closed, that show it on the other side of the supply from something. */
function ownLive(readings: WireReading[], metal: string[], nominalVolts: number): WireReading[] {
  return readings.filter((reading) => {
    const { kind, closed, value } = reading
    return (
      (kind === 'voltage' || kind === 'voltageHigh') && closed.length > 0 && otherEnd(reading, metal) !== null && value > nominalVolts / 2
    )
  })
}
/**
 * A line is a line by live readings of its own (of its joint's, if it is in one that stays closed): two that no single slip explains, so against another end or with another
 * control in another position. A neutral is one by at least one that shows a line against it. Dead readings and elimination
 * make neither.
 */
export function hasOwnLive(readings: WireReading[], metal: string[], role: WireRole, nominalVolts: number): boolean {
  const own = ownLive(readings, metal, nominalVolts)
  if (isNeutral(role)) return own.some((reading) => otherEnd(reading, metal) !== 'REF')
  const ways = new Set(own.map((reading) => `${otherEnd(reading, metal)} ${reading.far.join('')} ${reading.old?.join('') ?? ''}`))
  return ways.size >= 2
}

/** The other end of a test that is held to this piece of metal; null: it is held elsewhere, or both ends are of it. */
export const otherEnd = ({ a, b }: WireTest, metal: string[]): string | null =>
  metal.includes(a) === metal.includes(b) ? null : metal.includes(a) ? b : a
/**
 * What a dark conductor still lacks, so that no single slip hides a line behind it. A load and a spare are read dead twice with
 * every breaker closed, against ground or something at zero; a ground as well, unless it is one metal with the reference: an
 * earth that somebody used as a line looks like one that goes on. Against a load it would show nothing: behind an electronic lamp
 * that is off a load is held by nothing and follows whatever it is read against. A spare is twice not one metal with ground.
 * @returns the next reading it lacks, and the ends it may be held to; or null
 */
export function darkLacks(
  box: BoxIndex,
  weighed: Weighed[],
  metal: string[],
  zero: string[],
  role: WireRole,
): { reading: 'dark' | 'open'; ends: string[] } | null {
  if (role !== 'load' && role !== 'spare' && role !== 'ground') return null
  const ends = ['REF', ...zero]
  const times = (kind: WireReading['kind'], closed: number, wanted: number) =>
    weighed.reduce((sum, { test, outcome, count }) => {
      const counts = test.kind === kind && test.closed.length === closed && outcome === wanted && ends.includes(otherEnd(test, metal) ?? '')
      return counts ? sum + count : sum
    }, 0)
  const grounded = role === 'ground' && times('continuity', 0, seen.continuity.closed) > 0
  if (!grounded && times('voltage', box.found.circuits.length, seen.voltage.zero) < 2) return { reading: 'dark', ends }
  return role === 'spare' && times('continuity', 0, seen.continuity.open) < 2 ? { reading: 'open', ends } : null
}
/** Conductors that are at zero whatever fits, grounds and neutrals; none, as long as nothing does. */
export const zeroLetters = (box: BoxIndex, arrangements: Arrangement[]): string[] =>
  box.letters.filter(
    (letter) =>
      arrangements.length > 0 &&
      arrangements.every((arrangement) => {
        const { role } = roleIn(box, arrangement, letter)
        return role === 'ground' || isNeutral(role) || wordIn(box, arrangement, letter).startsWith('joint neutral')
      }),
  )
/** Is this held between these two pieces of metal? */
export const isBetween = ({ a, b }: { a: string; b: string }, first: string[], second: string[]): boolean =>
  (first.includes(a) && second.includes(b)) || (first.includes(b) && second.includes(a))
/** How two lines stand to each other: a meter between them shows both legs, or nothing. */
function legsOf(box: BoxIndex, readings: WireReading[], [a, b]: string[]): BestCable['legs'] {
  const { nominalVolts, circuits } = box.found
  const [first, second] = [metalOf(box, a!), metalOf(box, b!)]
  for (const reading of readings) {
    if (reading.kind !== 'voltage' || !isBetween(reading, first, second) || reading.closed.length < circuits.length) continue
    const outcome = outcomeOf(reading.kind, reading.value, nominalVolts)
    if (outcome === seen.voltage.double) return 'apart'
    if (outcome === seen.voltage.zero) return 'together'
  }
  return null
}
/** With its own breaker open and every other one closed a line is dead, or the circuits are tied. */
export const ownBreakerTells = (found: AsFoundBox, readings: WireReading[], metal: string[], circuit: string): boolean =>
  found.circuits.length < 2 ||
  found.circuits.every(
    (other) =>
      other === circuit ||
      readings.some(
        ({ kind, a, b, closed, value }) =>
          kind === 'voltage' &&
          b === 'REF' &&
          metal.includes(a) &&
          closed.includes(other) &&
          !closed.includes(circuit) &&
          outcomeOf(kind, value, found.nominalVolts) === seen.voltage.zero,
      ),
  )

/**
 * What the readings say of every conductor.
 * @param found the box as found; its splices and terminals as they are noted
 * @param readings all that was read, oldest first
 */
export function believe(found: AsFoundBox, readings: WireReading[]): Belief {
  const box = indexBox(found)
  const { arrangements, whole } = searchArrangements(box, readings, 1)
  const fitting = arrangements.filter((arrangement) => arrangement.misfits.length === 0)
  const { weighed, undecided } = weighReadings(readings, found.nominalVolts)
  const state: Findings['state'] =
    undecided.length && arrangements.length ? 'odd' : fitting.length || !whole ? 'open' : arrangements.length ? 'odd' : 'stop'
  let odd: WireReading[] = []
  if (state === 'odd')
    odd = undecided.length
      ? undecided
      : [...new Set(arrangements.flatMap((arrangement) => arrangement.misfits))].map((index) => weighed[index]!.test)
  if (state === 'stop') {
    const more = searchArrangements(box, readings, 3, 500).arrangements.sort((a, b) => a.misfits.length - b.misfits.length)
    odd = (more[0]?.misfits ?? []).map((index) => weighed[index]!.test)
  }
  const counted = weighed.map(({ test }) => test)
  const shown = fitting.length ? fitting : arrangements
  const sum = shown.reduce((total, arrangement) => total + arrangement.weight, 0)
  const zero = zeroLetters(box, fitting)
  const wires = box.letters.map((letter): WireFinding => {
    const guesses = new Map<string, RoleGuess>()
    for (const arrangement of shown) {
      const here = roleIn(box, arrangement, letter)
      const key = `${here.role} ${here.circuit}`
      const known = guesses.get(key)
      if (known) known.share += arrangement.weight / sum
      else guesses.set(key, { ...here, share: arrangement.weight / sum })
    }
    const every = whole && fitting.length ? sameRole(box, fitting, letter) : null
    const robust = every && sameRole(box, arrangements, letter)
    const vital = every !== null && (every.role === 'line' || isNeutral(every.role))
    // In a splice that stays closed a conductor is one metal with the others, and no more is known of it until it is opened.
    const held = every !== null && every.role !== 'load' && every.role !== 'loadOn' && wordIn(box, fitting[0]!, letter).startsWith('joint ')
    // Nothing is called anything else while one wrong reading would make it a line.
    const maybeLine = arrangements.some((arrangement) => roleIn(box, arrangement, letter).role === 'line')
    const dark = every === null || darkLacks(box, weighed, metalOf(box, letter), zero, every.role) === null
    const touching = weighed.filter(({ test }) => test.a === letter || test.b === letter).length
    // What was only seen, and never read, is not established.
    const told = vital ? robust && liveEnough(box, counted, [letter], every.role, every.circuit) : !maybeLine && dark
    const settled = every && !held && touching > 0 && told ? every : null
    const joint = whole && fitting.length && touching > 0 && !settled ? jointOf(box, arrangements, letter, counted) : null
    return {
      letter,
      settled,
      joint,
      guesses: [...guesses.values()].sort((a, b) => b.share - a.share),
      readings: touching,
      onceMore: every !== null && !settled && !joint,
    }
  })
  // While the older way, line and neutral on one switch, is possible, it is what is reckoned with: built upon, it hurts.
  const older = fitting.filter((arrangement) => arrangement.runs.some(({ run }) => run === 'farCarter'))
  const likeliest = (older.length ? older : fitting).reduce<Arrangement | null>(
    (top, arrangement) => (top && top.weight >= arrangement.weight ? top : arrangement),
    null,
  )
  const tell = (arrangement: Arrangement): BestCable[] =>
    arrangement.runs.map(({ run, roles, circuits, links }, cable): BestCable => {
      const start = box.cableOf.indexOf(cable)
      const first = links.find((link) => link.far >= 0 && link.when === 0)
      const node =
        first &&
        [first.a, first.b].find((end) => {
          const role = roles[end - start]
          // Of tied commons and of the older way it is the other end that the switch picks.
          if (run === 'farStraps' || run === 'farStrapsEnd') return role !== undefined && role !== 'traveler'
          if (run === 'farCarter') return role !== undefined && role !== 'load'
          return role === 'traveler'
        })
      const lines = roles.flatMap((role, at) => (role === 'line' ? [box.letters[start + at]!] : []))
      return {
        run,
        roles,
        circuits: circuits.map((circuit) => (circuit < 0 ? null : found.circuits[circuit]!)),
        far: first?.far ?? null,
        firstTraveler: node === undefined ? null : box.letters[node]!,
        legs: run === 'sharedFeed' ? legsOf(box, counted, lines) : null,
      }
    })
  const best = likeliest ? tell(likeliest) : []
  const said = (way: BestCable[]) => JSON.stringify(way.map(({ run, roles, circuits }) => [run, roles, circuits]))
  const known = new Set([said(best)])
  const others: BestCable[][] = []
  // Asked for only once everything is known: before that they are as many as the arrangements that are left.
  const allKnown = wires.every((wire) => wire.settled ?? wire.joint)
  for (const arrangement of allKnown ? [...fitting].sort((a, b) => b.weight - a.weight) : []) {
    if (others.length >= mostOthers) break
    const way = tell(arrangement)
    if (known.has(said(way))) continue
    known.add(said(way))
    others.push(way)
  }
  return {
    box,
    counted,
    weighed,
    fitting,
    nearly: arrangements,
    whole,
    findings: { state, wires, left: fitting.length, whole, best, others, odd },
  }
}
export const identify = (found: AsFoundBox, readings: WireReading[]): Findings => believe(found, readings).findings
