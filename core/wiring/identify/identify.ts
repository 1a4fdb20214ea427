import type { FoundBox, WireReading } from './found-box'
import { indexBox, roleIn, searchWorlds, weighReadings, type BoxIndex, type World } from './worlds'
import type { Course, WireRole } from './roles'

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
  joint: { role: 'line' | 'neutral'; circuit: string } | null
  /** Readings that touch this conductor. */
  readings: number
  /** One agreement short: every arrangement that fits says so, but one wrong reading could hide another. */
  onceMore: boolean
}
/** One cable of the likeliest arrangement. */
export interface BestCable {
  course: Course
  roles: WireRole[]
  circuits: (string | null)[]
  /** Which other switch it leads to, and the conductor that switch takes in its position 0. */
  far: number | null
  firstTraveler: string | null
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
  /** Readings that stand against the best explanation. */
  odd: WireReading[]
}

export interface Belief {
  box: BoxIndex
  /** Arrangements that agree with everything. */
  fitting: World[]
  /** Arrangements that disagree with one reading at most. */
  nearly: World[]
  whole: boolean
  findings: Findings
}

const sameRole = (box: BoxIndex, worlds: World[], letter: string) => {
  const first = roleIn(box, worlds[0]!, letter)
  return worlds.every((world) => {
    const here = roleIn(box, world, letter)
    return here.role === first.role && here.circuit === first.circuit
  })
    ? first
    : null
}

/** The line or neutral that a conductor's splice carries in every arrangement. */
function jointOf(box: BoxIndex, worlds: World[], letter: string, readings: { test: WireReading }[]): WireFinding['joint'] {
  const splice = box.spliceOf[box.letters.indexOf(letter)]!
  if (splice < 0) return null
  const group = box.letters.filter((_, index) => box.spliceOf[index] === splice)
  // What was only seen, and not read twice, is not established.
  if (readings.filter(({ test }) => group.includes(test.a) || group.includes(test.b)).length < 2) return null
  const words = new Set(
    worlds.map((world) => {
      const source = group.map((other) => roleIn(box, world, other)).find(({ role }) => role === 'line' || role === 'neutral')
      return source ? `${source.role} ${source.circuit}` : ''
    }),
  )
  const [word] = words
  if (words.size !== 1 || !word) return null
  const [role, circuit] = word.split(' ') as ['line' | 'neutral', string]
  return { role, circuit }
}

/** Readings of this conductor itself, with a breaker closed, that show it on the other side of the supply from something. */
export function ownLive(readings: WireReading[], letter: string, nominalVolts: number): WireReading[] {
  return readings.filter(
    ({ kind, a, b, closed, value }) =>
      (kind === 'voltage' || kind === 'voltageHigh') && closed.length > 0 && (a === letter || b === letter) && value > nominalVolts / 2,
  )
}
/**
 * A line is a line by live readings of its own: two that no single slip explains, so against another end or with another
 * control in another position. A neutral is one by at least one that shows a line against it. Dead readings and elimination
 * make neither.
 */
export function hasOwnLive(readings: WireReading[], letter: string, role: WireRole, nominalVolts: number): boolean {
  const own = ownLive(readings, letter, nominalVolts)
  if (role === 'neutral') return own.some(({ a, b }) => (a === letter ? b : a) !== 'REF')
  const ways = new Set(own.map(({ a, b, far, old }) => `${a === letter ? b : a} ${far.join('')} ${old?.join('') ?? ''}`))
  return ways.size >= 2
}

/**
 * What the readings say of every conductor.
 * @param found the box as found; its splices and terminals as they are noted
 * @param readings all that was read, oldest first; a repeated test replaces its older word
 */
export function believe(found: FoundBox, readings: WireReading[]): Belief {
  const box = indexBox(found)
  const { worlds, whole } = searchWorlds(box, readings, 1)
  const fitting = worlds.filter((world) => world.misfits.length === 0)
  const weighed = weighReadings(readings, found.nominalVolts)
  const state: Findings['state'] = fitting.length ? 'open' : !whole ? 'open' : worlds.length ? 'odd' : 'stop'
  let odd: WireReading[] = []
  if (state === 'odd') odd = [...new Set(worlds.flatMap((world) => world.misfits))].map((index) => weighed[index]!.test)
  if (state === 'stop') {
    const more = searchWorlds(box, readings, 3, 500).worlds.sort((a, b) => a.misfits.length - b.misfits.length)
    odd = (more[0]?.misfits ?? []).map((index) => weighed[index]!.test)
  }
  const shown = fitting.length ? fitting : worlds
  const sum = shown.reduce((total, world) => total + world.weight, 0)
  const wires = box.letters.map((letter): WireFinding => {
    const guesses = new Map<string, RoleGuess>()
    for (const world of shown) {
      const here = roleIn(box, world, letter)
      const key = `${here.role} ${here.circuit}`
      const known = guesses.get(key)
      if (known) known.share += world.weight / sum
      else guesses.set(key, { ...here, share: world.weight / sum })
    }
    const every = whole && fitting.length ? sameRole(box, fitting, letter) : null
    const robust = every && sameRole(box, worlds, letter)
    const vital = every?.role === 'line' || every?.role === 'neutral'
    // Nothing is called anything else while one wrong reading would make it a line.
    const maybeLine = worlds.some((world) => roleIn(box, world, letter).role === 'line')
    const readings = weighed.filter(({ test }) => test.a === letter || test.b === letter).length
    // What was only seen, and never read, is not established.
    const told =
      vital && every
        ? robust &&
          hasOwnLive(
            weighed.map(({ test }) => test),
            letter,
            every.role,
            found.nominalVolts,
          )
        : !maybeLine
    const settled = every && readings > 0 && told ? every : null
    return {
      letter,
      settled,
      joint: whole && fitting.length ? jointOf(box, worlds, letter, weighed) : null,
      guesses: [...guesses.values()].sort((a, b) => b.share - a.share),
      readings,
      onceMore: every !== null && !settled,
    }
  })
  const likeliest = fitting.reduce<World | null>((top, world) => (top && top.weight >= world.weight ? top : world), null)
  const best =
    likeliest?.candidates.map(({ course, roles, circuits, links }, cable): BestCable => {
      const start = box.cableOf.indexOf(cable)
      const first = links.find((link) => link.far >= 0 && link.when === 0)
      const node = first && [first.a, first.b].find((end) => roles[end - start] === 'traveler')
      return {
        course,
        roles,
        circuits: circuits.map((circuit) => (circuit < 0 ? null : found.circuits[circuit]!)),
        far: first?.far ?? null,
        firstTraveler: node === undefined ? null : box.letters[node]!,
      }
    }) ?? []
  return { box, fitting, nearly: worlds, whole, findings: { state, wires, left: fitting.length, whole, best, odd } }
}
export const identify = (found: FoundBox, readings: WireReading[]): Findings => believe(found, readings).findings
