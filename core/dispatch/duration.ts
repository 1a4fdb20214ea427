import { diagnosisMinutes, workKinds, type Work, type WorkKind } from './work'

/** Minutes that one of each takes before anything is learnt, and how far off that may be. Common practice, no source. */
export const baseMinutes: Record<WorkKind, number> = {
  arrive: 12,
  box: 14,
  device: 16,
  companion: 10,
  module: 28,
  multiWay: 14,
  fixture: 18,
  pairing: 6,
  unknown: 9,
  diagnosis: diagnosisMinutes,
  look: 4,
  handover: 20,
  beside: 1,
}
/** Of one piece of work against its kind, of a whole visit, of a kind against its base, of a person: relative standard deviations. Common practice, no source. */
const pieceSpread = 0.4
const visitSpread = 0.2
const kindSpread = 0.3
const personSpread = 0.2
/** What one visit says of all that, against its expected minutes. */
const noise = 0.35
/** Four of five visits lie within so many standard deviations (normal distribution). */
const fourOfFive = 1.2816
/** … and two of three end within so many beyond the mean. */
const twoOfThree = 0.4307

export interface FinishedVisit {
  work: Work
  minutes: number
  personIds: string[]
}
export interface Learned {
  /** How much longer a kind of work takes than its base: 0.2 is a fifth. */
  kinds: Record<WorkKind, number>
  people: Record<string, number>
  visits: number
  /** Visits in which a kind of work was done. */
  seen: Partial<Record<WorkKind, number>>
}
export const minutesOf = (work: Work): number => workKinds.reduce((sum, kind) => sum + (work[kind] ?? 0) * baseMinutes[kind], 0)

/** A visit that was forgotten to be ended, or is a slip, teaches nothing. */
const isUsable = ({ minutes, work }: FinishedVisit) => minutes >= 5 && minutes <= 14 * 60 && minutesOf(work) > 0
const mostRatio = 3

/**
 * Ridge regression of relative excess on the shares of each kind of work and on who was there: what is seen seldom stays near
 * nothing, so that three jobs do not fool it. Solved by coordinate descent, which is exact here (a strictly convex quadratic).
 * Source: Hoerl and Kennard, Ridge Regression, Technometrics 12 (1970); the weights are variances as in a normal model.
 */
export function learn(finished: readonly FinishedVisit[]): Learned {
  const visits = finished.filter(isUsable)
  const rows = visits.map(({ work, minutes, personIds }) => {
    const base = minutesOf(work)
    const weights = new Map<string, number>()
    for (const kind of workKinds) if (work[kind]) weights.set(`kind:${kind}`, (work[kind] * baseMinutes[kind]) / base)
    for (const id of personIds) weights.set(`person:${id}`, 1 / personIds.length)
    return { weights, excess: Math.min(mostRatio, minutes / base) - 1 }
  })
  const keys = [...new Set(rows.flatMap(({ weights }) => [...weights.keys()]))]
  const found = new Map(keys.map((key) => [key, 0]))
  const penalty = (key: string) => (noise / (key.startsWith('kind:') ? kindSpread : personSpread)) ** 2
  const left = rows.map(({ excess }) => excess)
  for (let round = 0, moved = 1; round < 500 && moved > 1e-9; round++) {
    moved = 0
    for (const key of keys) {
      let [sum, square] = [0, penalty(key)]
      const before = found.get(key)!
      rows.forEach(({ weights }, at) => {
        const weight = weights.get(key)
        if (!weight) return
        sum += weight * (left[at]! + weight * before)
        square += weight * weight
      })
      const after = sum / square
      rows.forEach(({ weights }, at) => (left[at]! -= (weights.get(key) ?? 0) * (after - before)))
      found.set(key, after)
      moved = Math.max(moved, Math.abs(after - before))
    }
  }
  const ofKind = (kind: WorkKind) => found.get(`kind:${kind}`) ?? 0
  return {
    kinds: Object.fromEntries(workKinds.map((kind) => [kind, ofKind(kind)])) as Record<WorkKind, number>,
    people: Object.fromEntries([...found].flatMap(([key, value]) => (key.startsWith('person:') ? [[key.slice(7), value]] : []))),
    visits: visits.length,
    seen: Object.fromEntries(
      workKinds.flatMap((kind) => {
        const many = visits.filter(({ work }) => work[kind]).length
        return many ? [[kind, many]] : []
      }),
    ),
  }
}
export const nothingLearned: Learned = learn([])

export interface Duration {
  minutes: number
  /** Four of five such visits lie between. */
  low: number
  high: number
  parts: { kind: WorkKind; count: number; minutes: number }[]
}
/**
 * How long a visit takes: the sum of its pieces as they were learnt, by who goes.
 * @returns minutes; the spread is of pieces that differ by themselves, and of a day that is good or bad for all of them
 */
export function durationOf(work: Work, learned: Learned, personIds: readonly string[] = []): Duration {
  const people = personIds.length ? personIds.reduce((sum, id) => sum + (learned.people[id] ?? 0), 0) / personIds.length : 0
  const parts = workKinds.flatMap((kind) => {
    const count = work[kind] ?? 0
    return count ? [{ kind, count, minutes: count * baseMinutes[kind] * Math.max(0.3, 1 + learned.kinds[kind] + people) }] : []
  })
  const minutes = parts.reduce((sum, part) => sum + part.minutes, 0)
  // Other work is one piece, however many minutes it has.
  const pieces = parts.reduce((sum, { kind, count, minutes: its }) => sum + (pieceSpread * its) ** 2 / (kind === 'beside' ? 1 : count), 0)
  const sd = Math.sqrt(pieces + (visitSpread * minutes) ** 2)
  return { minutes, low: Math.max(0, minutes - fourOfFive * sd), high: minutes + fourOfFive * sd, parts }
}
/** Spread of the logarithm of such a visit’s minutes, for playing it many times. */
export const spreadOf = ({ minutes, high }: Duration): number => (minutes > 0 ? Math.log(Math.max(1.05, high / minutes)) / fourOfFive : 0.3)
/** Hours to book, in halves: so that two of three such visits end in time. */
export const bookedHours = ({ minutes, high }: Duration): number =>
  Math.max(0.5, Math.ceil((minutes + (twoOfThree / fourOfFive) * (high - minutes)) / 30 - 1e-9) / 2)
