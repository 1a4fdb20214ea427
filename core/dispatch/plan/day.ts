/** A day to plan: who can go where, what is to be done, and what it costs not to. Times are seconds after the day’s beginning. */

export interface Rest {
  seconds: number
  /** It begins between these. */
  from: number
  to: number
}

export interface DayCrew {
  id: string
  personIds: readonly string[]
  /** People who count for a visit’s work: an apprentice only beside a licensed person. */
  people: number
  licensed: boolean
  skills: readonly string[]
  /** Where the crew is when it is free; a place of the matrix. */
  start: number
  /** Where its day ends; null where it does not matter. */
  end: number | null
  /** Shift; until `latest` with overtime. */
  from: number
  to: number
  latest: number
  rest: Rest | null
  /** When it does no work in between, in order: somebody is away, or others have its van. Whoever is on the road then goes on. */
  away: readonly { from: number; to: number }[]
  /** How its work goes against the usual: 1.2 takes a fifth longer. */
  pace: number
}

export interface DayVisit {
  id: string
  place: number
  /** Expected work. */
  seconds: number
  /** The promised window of arrival. */
  from: number
  to: number
  /** Rather not at all than late. */
  hard: boolean
  /** How much its lateness weighs against the usual 1. */
  weight: number
  people: number
  licence: boolean
  skills: readonly string[]
  /** Crews with its parts on board; others stop at the store before it. null where nothing is needed. */
  partsWith: readonly number[] | null
  /** Points that leaving it out costs. */
  leftOut: number
  /** It stays with these crews. */
  pinned: readonly number[] | null
  /** What was said before: staying close to it is worth something. */
  promised: { crews: readonly number[]; start: number } | null
}

/** Points per minute, unless said otherwise. */
export interface DayWeights {
  travel: number
  late: number
  overtime: number
  /** Points for a crew other than the promised one. */
  otherCrew: number
  /** Per minute that a start moves, beyond a quarter of an hour. */
  moved: number
  /** Points for a crew that is busy for its whole shift, less by the square for one that is not. */
  uneven: number
}
/** A minute on the road is the measure; one of lateness is worth four, one of overtime two. A choice of ours, no source. */
export const usualWeights: DayWeights = { travel: 1, late: 4, overtime: 2, otherCrew: 15, moved: 0.25, uneven: 30 }
/** Somebody who comes so much earlier or later than said has come as said. */
export const asSaidSeconds = 15 * 60
/** Of the logarithm of a drive, from day to day. Common practice, no source. */
export const roadSpread = 0.15
/** Work that runs over has at least so much of itself left. */
export const stillLeft = 0.1
/** Loading at the store: common practice, no source. */
export const storeSeconds = 10 * 60

export interface DayProblem {
  crews: readonly DayCrew[]
  visits: readonly DayVisit[]
  /** The place where parts lie; null where nobody has to fetch any. */
  store: number | null
  weights: DayWeights
  /** When who leaves a place then is at another: leaving later never arrives earlier. */
  arrive: (from: number, to: number, leave: number) => number
}

/** Visits of each crew in their order, by number; one that two crews do together stands in both. */
export type Routes = readonly (readonly number[])[]

/** What a crew lacks for a visit by itself, whatever the time. */
export type Lack = 'licence' | 'skills' | 'people' | 'pinned'
/** @returns What these crews lack for it, come together: one licence among them is enough. */
export function lackOf(visit: DayVisit, numbers: readonly number[], { crews }: Pick<DayProblem, 'crews'>): Lack | null {
  const come = numbers.map((crew) => crews[crew]!)
  if (visit.pinned && !numbers.every((crew) => visit.pinned!.includes(crew))) return 'pinned'
  if (!visit.skills.every((skill) => come.some(({ skills }) => skills.includes(skill)))) return 'skills'
  if (visit.licence && !come.some(({ licensed }) => licensed)) return 'licence'
  if (come.reduce((sum, { people }) => sum + people, 0) < visit.people) return 'people'
  return null
}
