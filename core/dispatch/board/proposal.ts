import { changesBetween, placesIn, whyLeftOut, type TimedPlan, type WhyLeftOut } from '../plan'
import type { DayFileVisit } from './day-file'
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
  /** Only its times are set to what is expected, so that nobody is booked twice: nobody has to be told. */
  quiet: boolean
}
export interface Proposal {
  changes: Change[]
  leftOut: { id: string; siteId: string; why: WhyLeftOut | { why: 'parts'; lacks: string } }[]
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
/** What is promised of a start, seconds since 1970. */
export const promiseOf = (start: number) => ({
  windowFrom: iso(quarter(start - window.before)),
  windowTo: iso(quarter(start + window.after)),
})

const travelOf = (plan: TimedPlan) => plan.crews.reduce((sum, { travel }) => sum + travel, 0) / 60
const lateOf = ({ problem }: DayQuestion, plan: TimedPlan) =>
  plan.crews.reduce(
    (sum, { stops }) => sum + stops.reduce((all, { visit, start }) => all + Math.max(0, start - problem.visits[visit]!.to), 0),
    0,
  ) / 60

const minuteOf = (seconds: number) => Math.floor(seconds / 60) * 60

/** What a plan would change of the day as it is booked. */
export function proposalOf(question: DayQuestion, before: TimedPlan, after: TimedPlan): Proposal {
  const { problem, what, begin } = question
  const places = placesIn(after)
  const changes = changesBetween(problem, before, after).flatMap(({ visit, from, to, breaksPromise }): Change[] => {
    if (!to) return []
    const { booked } = what[visit]!
    const { start, end } = places.get(visit)!
    const startAt = begin + start
    // Nobody was there to keep it: whoever goes now keeps it, or does not.
    const broken = breaksPromise || (booked !== null && from === null && start > problem.visits[visit]!.to)
    const kept = booked && !broken
    return [
      {
        ...nameOf(question, visit),
        was: booked ? { personIds: booked.personIds, startAt: booked.startsAt } : null,
        personIds: peopleOf(question, to.crews),
        startAt: iso(minuteOf(startAt)),
        endAt: iso(minuteOf(begin + end)),
        ...(kept ? promisedBy(booked) : promiseOf(startAt)),
        breaksPromise: broken,
        quiet: false,
      },
    ]
  })
  return {
    changes: [...changes, ...inTheWay(question, after, changes)],
    leftOut: [
      ...after.leftOut.map((visit) => {
        const { id, siteId } = nameOf(question, visit)
        return { id, siteId, why: whyLeftOut(problem, after, visit) }
      }),
      ...question.file.open.flatMap(({ id, siteId, lacks }) =>
        lacks === null ? [] : [{ id, siteId, why: { why: 'parts' as const, lacks } }],
      ),
    ],
    before: before.cost,
    after: after.cost,
    travel: { before: travelOf(before), after: travelOf(after) },
    late: { before: lateOf(question, before), after: lateOf(question, after) },
    promisesBroken: changes.filter((change) => change.breaksPromise).length,
  }
}

const promisedBy = ({ windowFrom, windowTo }: DayFileVisit) => ({ windowFrom, windowTo })
export function nameOf({ what }: DayQuestion, visit: number) {
  const { booked, open } = what[visit]!
  const { id, jobId, siteId, kind } = (booked ?? open)!
  return { id, jobId, siteId, kind, callbackId: booked?.callbackId ?? open?.callbackId ?? null }
}
export const peopleOf = ({ crews }: DayQuestion, of: number[]) => of.flatMap((crew) => crews[crew]!.personIds)

/** Visits that stay with who has them, and whose booked hours reach into one that is put beside them: they are set to what is expected. */
export function inTheWay(question: DayQuestion, after: TimedPlan, changes: Change[]): Change[] {
  const { file, what, begin, crews, problem } = question
  const places = placesIn(after)
  const changed = new Set(changes.map(({ id }) => id))
  const hits = ({ personIds, startsAt, endsAt }: DayFileVisit) =>
    changes.some(
      (change) =>
        change.personIds.some((id) => personIds.includes(id)) &&
        Date.parse(change.startAt) < Date.parse(endsAt) &&
        Date.parse(change.endAt) > Date.parse(startsAt),
    )
  return (
    file.visits
      .filter((visit) => visit.status !== 'done' && !changed.has(visit.id) && hits(visit))
      // What no plan has a place for has no hours that could be set.
      .filter((visit) => visit.status === 'onSite' || places.has(what.findIndex(({ booked }) => booked?.id === visit.id)))
      .map((visit): Change => {
        const at = what.findIndex(({ booked }) => booked?.id === visit.id)
        const place = places.get(at)
        const crew = crews.findIndex(({ personIds }) => personIds.includes(visit.personIds[0]!))
        return {
          id: visit.id,
          jobId: visit.jobId,
          siteId: visit.siteId,
          kind: visit.kind,
          callbackId: visit.callbackId,
          was: { personIds: visit.personIds, startAt: visit.startsAt },
          personIds: visit.personIds,
          startAt: place ? iso(minuteOf(begin + place.start)) : visit.startsAt,
          endAt: iso(minuteOf(begin + (place ? place.end : problem.crews[crew]!.from))),
          ...promisedBy(visit),
          breaksPromise: false,
          quiet: true,
        }
      })
  )
}
