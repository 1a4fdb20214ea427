import { probit } from 'simple-statistics'
import { roadSpread, stillLeft } from '../plan/day'

/** A crew that comes within so short a time of its window’s end is about to be late: the customer is told while it helps. A choice of ours. */
const warnBefore = 15 * 60_000
const quarter = 15 * 60_000
/** A window that is shorter than this is a promise nobody can keep. */
const shortest = 45 * 60_000
const fourOfFive = probit(0.8)

/** Work that is still to be done where the crew is, and the drive after it. */
export interface Ahead {
  /** Seconds since 1970. */
  now: number
  /** When the work at hand began, its expected seconds and the spread of their logarithm; null: they can leave now. */
  work: { since: number; seconds: number; spread: number } | null
}

/** When a crew leaves where it is, seconds since 1970: as its work is expected to end, never before now. */
export function leavesAt({ now, work }: Ahead): number {
  return work ? Math.max(work.since + work.seconds, now + stillLeft * work.seconds) : now
}

/**
 * By when they are there on four of five days: work and drive are lognormal, and taken as independent.
 * @param arrive When they are expected, by leaving at `leavesAt`.
 */
export function fourOfFiveBy(ahead: Ahead, arrive: number): number {
  const leave = leavesAt(ahead)
  const drive = (arrive - leave) * roadSpread
  const left = ahead.work ? Math.max(leave - ahead.now, stillLeft * ahead.work.seconds) * ahead.work.spread : 0
  return arrive + fourOfFive * Math.hypot(drive, left)
}

/** Is a crew that is expected then about to break its promise? Instants as ISO text. */
export const runsLate = (windowTo: string, expectedAt: string): boolean => Date.parse(expectedAt) > Date.parse(windowTo) - warnBefore

/**
 * What can be promised instead: quarters of an hour around what is expected, to a time that holds on four of five days.
 * @returns Instants as ISO text.
 */
export function windowInstead(expectedAt: string, fourAt: string): { windowFrom: string; windowTo: string } {
  const from = Math.floor(Date.parse(expectedAt) / quarter) * quarter
  const to = Math.max(from + shortest, Math.ceil(Math.max(Date.parse(fourAt), Date.parse(expectedAt)) / quarter) * quarter)
  return { windowFrom: new Date(from).toISOString(), windowTo: new Date(to).toISOString() }
}

/** A visit that begins sooner is moved by telephone only: somebody may be on the way already. A choice of ours, no source. */
const customersMoveUntilMs = 60 * 60_000
/** Can the customer of a visit still choose another time on their page? `now` in ms since 1970. */
export const customerMayMove = (
  { status, setOff, startsAt }: { status: string; setOff: boolean; startsAt: string },
  now: number,
): boolean => status === 'planned' && !setOff && beginsLater(startsAt, now)
/** An offered time, too, has to lie so far ahead. */
export const beginsLater = (startsAt: string, now: number): boolean => Date.parse(startsAt) > now + customersMoveUntilMs
