import { changesBetween, placesIn, whyLeftOut, type TimedPlan, type WhyLeftOut } from '../plan'
import type { DayQuestion } from './problem'

/** One visit that a proposal places or moves. */
export interface Change {
  /** Of the visit, or of what waits for one. */
  id: string
  jobId: string
  siteId: string
  kind: string
  callbackId: string | null
  /** null where it was not booked. */
  was: { personIds: string[]; startAt: string } | null
  personIds: string[]
  startAt: string
  endAt: string
  windowFrom: string
  windowTo: string
  /** The customer was promised a window that this does not keep: they have to be asked. */
  breaksPromise: boolean
}
export interface Proposal {
  changes: Change[]
  leftOut: { id: string; siteId: string; why: WhyLeftOut }[]
  /** Points before and after; a point is a minute on the road. */
  before: number
  after: number
  /** Minutes on the road, and of lateness as it is planned. */
  travel: { before: number; after: number }
  late: { before: number; after: number }
  promisesBroken: number
}

const iso = (seconds: number) => new Date(seconds * 1000).toISOString()
/** A new promise is two hours from half an hour before. A choice of ours; the office can change it. */
const window = { before: 30 * 60, after: 90 * 60 }
const quarter = (seconds: number) => Math.round(seconds / 900) * 900

const travelOf = (plan: TimedPlan) => plan.crews.reduce((sum, { travel }) => sum + travel, 0) / 60
const lateOf = ({ problem }: DayQuestion, plan: TimedPlan) =>
  plan.crews.reduce(
    (sum, { stops }) => sum + stops.reduce((all, { visit, start }) => all + Math.max(0, start - problem.visits[visit]!.to), 0),
    0,
  ) / 60

/** What a plan would change of the day as it is booked. */
export function proposalOf(question: DayQuestion, before: TimedPlan, after: TimedPlan): Proposal {
  const { problem, what, crews, begin } = question
  const places = placesIn(after)
  const changes = changesBetween(problem, before, after).flatMap(({ visit, from, to, breaksPromise }): Change[] => {
    if (!to) return []
    const { booked, open } = what[visit]!
    const { start, end } = places.get(visit)!
    const { id, jobId, siteId, kind } = (booked ?? open)!
    const minute = Math.round((begin + start) / 60) * 60
    return [
      {
        id,
        jobId,
        siteId,
        kind,
        callbackId: open?.callbackId ?? null,
        was: booked && from ? { personIds: booked.personIds, startAt: booked.startsAt } : null,
        personIds: to.crews.flatMap((crew) => crews[crew]!.personIds),
        startAt: iso(minute),
        endAt: iso(minute + Math.ceil((end - start) / 300) * 300),
        windowFrom: booked && !breaksPromise ? booked.windowFrom : iso(quarter(minute - window.before)),
        windowTo: booked && !breaksPromise ? booked.windowTo : iso(quarter(minute + window.after)),
        breaksPromise,
      },
    ]
  })
  return {
    changes,
    leftOut: after.leftOut.map((visit) => {
      const { id, siteId } = what[visit]!.booked ?? what[visit]!.open!
      return { id, siteId, why: whyLeftOut(problem, after, visit) }
    }),
    before: before.cost,
    after: after.cost,
    travel: { before: travelOf(before), after: travelOf(after) },
    late: { before: lateOf(question, before), after: lateOf(question, after) },
    promisesBroken: changes.filter((change) => change.breaksPromise).length,
  }
}
