import { isAway } from '../away'
import { changesBetween, placesIn, whyLeftOut, type TimedPlan, type WhyLeftOut } from '../plan'
import type { DayFileVisit } from './day-file'
import type { DayQuestion } from './problem'
import { bookedTwice, vanOf } from './twice'

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
    const hours = { startAt: iso(minuteOf(startAt)), endAt: iso(minuteOf(begin + end)) }
    return [
      {
        ...nameOf(question, visit),
        was: booked ? { personIds: booked.personIds, startAt: booked.startsAt } : null,
        personIds: peopleOf(question, to.crews, hours, booked?.personIds),
        ...hours,
        ...(kept ? promisedBy(booked) : promiseOf(startAt)),
        breaksPromise: broken,
        quiet: false,
      },
    ]
  })
  return {
    changes: withoutSharedTwice(question, [...changes, ...inTheWay(question, after, changes)]),
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
type Hours = Pick<Change, 'startAt' | 'endAt'>
const overlaps = ({ startAt, endAt }: Hours, { startsAt, endsAt }: Pick<DayFileVisit, 'startsAt' | 'endsAt'>) =>
  Date.parse(startAt) < Date.parse(endsAt) && Date.parse(endAt) > Date.parse(startsAt)

/**
 * Who of these crews goes at that time: their leads, and whoever comes along and is there; somebody who goes with several that day
 * only where they were booked, and while nobody else has them.
 */
export function peopleOf({ crews, file }: DayQuestion, of: readonly number[], hours: Hours, booked: readonly string[] = []): string[] {
  const gone = (id: string) => isAway(file.away, id, hours.startAt, hours.endAt)
  const elsewhere = (id: string) =>
    file.visits.some(
      (visit) =>
        visit.personIds.includes(id) &&
        !visit.personIds.some((one) => of.some((crew) => crews[crew]!.id === one)) &&
        overlaps(hours, visit),
    )
  return of.flatMap((crew) => {
    const { id: leader, personIds, steadyIds } = crews[crew]!
    const along = personIds.filter((id) => id !== leader && (steadyIds.includes(id) || (booked.includes(id) && !elsewhere(id))))
    return [leader, ...along.filter((id) => !gone(id))]
  })
}

/** Who comes along with several crews stays behind where they would be with two at once: that is said, and what a visit lacks then, too. */
function withoutSharedTwice({ file }: DayQuestion, changes: Change[]): Change[] {
  const asNow = bookedTwice(file.visits)
  const known = (one: (typeof asNow)[number]) =>
    asNow.some(({ personId, first, second }) => personId === one.personId && first === one.first && second === one.second)
  for (;;) {
    const byId = new Map(changes.map((change) => [change.id, change]))
    const booked = [
      ...file.visits.filter(({ id }) => !byId.has(id)),
      ...changes.map(({ id, personIds, startAt, endAt }) => ({ id, personIds, startsAt: startAt, endsAt: endAt })),
    ]
    const found = bookedTwice(booked)
      .filter((one) => !known(one))
      .flatMap(({ personId, first, second }) => {
        const change = [second, first].flatMap((id) => byId.get(id) ?? []).find(({ personIds }) => personIds.indexOf(personId) > 0)
        return change ? [{ change, personId }] : []
      })[0]
    if (!found) return changes
    const { change, personId } = found
    changes = changes.map((one) =>
      one === change ? { ...one, personIds: one.personIds.filter((id) => id !== personId), quiet: false } : one,
    )
  }
}

/**
 * Visits that stay with who has them, and whose booked hours reach into one that is put beside them: they are set to what is expected.
 * So set one may reach into the next, and so on.
 */
export function inTheWay(question: DayQuestion, after: TimedPlan, changes: Change[]): Change[] {
  const found = directlyInTheWay(question, after, changes)
  return found.length ? [...found, ...inTheWay(question, after, [...changes, ...found])] : []
}
function directlyInTheWay(question: DayQuestion, after: TimedPlan, changes: Change[]): Change[] {
  const { file, what, begin, crews, problem } = question
  const places = placesIn(after)
  const changed = new Set(changes.map(({ id }) => id))
  const vans = new Map(changes.map((change) => [change, vanOf(change.personIds, file.people)]))
  const hits = (visit: DayFileVisit) =>
    changes.some(
      (change) =>
        (change.personIds.some((id) => visit.personIds.includes(id)) ||
          (change.siteId !== visit.siteId && vans.get(change) && vans.get(change) === vanOf(visit.personIds, file.people))) &&
        overlaps(change, visit),
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
