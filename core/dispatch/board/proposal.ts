import { isAway } from '../away'
import { asSaidSeconds, changesBetween, placesIn, sameMembers, timePlan, whyLeftOut, type TimedPlan, type WhyLeftOut } from '../plan'
import type { DayFileVisit } from './day-file'
import type { DayQuestion } from './problem'
import { clashesOf } from './clashes'
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

/** What a plan would change of the day as it is booked. Whatever it says can be taken over as a whole. */
export function proposalOf(question: DayQuestion, before: TimedPlan, after: TimedPlan): Proposal {
  const { problem, what, begin } = question
  const places = placesIn(after)
  const planned = changesBetween(problem, before, after).flatMap(({ visit, from, to, breaksPromise }): Change[] => {
    if (!to) return []
    const { booked } = what[visit]!
    const { start, end } = places.get(visit)!
    const startAt = begin + start
    // Nobody was there to keep it: whoever goes now keeps it, or does not.
    const broken = breaksPromise || (booked !== null && from === null && start > problem.visits[visit]!.to)
    const kept = booked && !broken
    const hours = { startAt: iso(minuteOf(startAt)), endAt: iso(minuteOf(begin + end)) }
    const personIds = peopleOf(question, to.crews, hours, booked?.personIds)
    // As it runs it would be late, and now it is not: for whoever waits nothing has changed.
    const asSaid =
      kept && sameMembers(personIds, booked.personIds) && Math.abs(startAt - Date.parse(booked.startsAt) / 1000) <= asSaidSeconds
    return [
      {
        ...nameOf(question, visit),
        was: booked ? { personIds: booked.personIds, startAt: booked.startsAt } : null,
        personIds,
        ...hours,
        ...(kept ? promisedBy(booked) : promiseOf(startAt)),
        breaksPromise: broken,
        quiet: Boolean(asSaid),
      },
    ]
  })
  const { changes: takeableChanges, stays } = takeable(question, after, planned)
  // Hours alone are set only to make room for something.
  const changes = takeableChanges.some(({ quiet }) => !quiet) ? takeableChanges : []
  const asTaken = stays.size ? (withThemAsBooked(question, after, stays) ?? after) : after
  return {
    changes,
    leftOut: [
      ...asTaken.leftOut
        .filter((visit) => !hasPeople(question, visit))
        .map((visit) => {
          const { id, siteId } = nameOf(question, visit)
          return { id, siteId, why: stays.has(id) ? { why: 'full' as const } : whyLeftOut(problem, after, visit) }
        }),
      ...question.file.open.flatMap(({ id, siteId, lacks }) =>
        lacks === null ? [] : [{ id, siteId, why: { why: 'parts' as const, lacks } }],
      ),
    ],
    before: before.cost,
    after: asTaken.cost,
    travel: { before: travelOf(before), after: travelOf(asTaken) },
    late: { before: lateOf(question, before), after: lateOf(question, asTaken) },
    promisesBroken: changes.filter((change) => change.breaksPromise).length,
  }
}

/** So many ways out of one clash are compared at most. */
const mostTried = 8
/**
 * Whatever taking over would refuse is left as it is booked: a day that runs late as it stands, or two vans on a full day, can put
 * hours beside each other that no plan meant.
 */
function takeable(question: DayQuestion, after: TimedPlan, planned: Change[]): { changes: Change[]; stays: ReadonlySet<string> } {
  // Nobody loses who was to come because the rest of a full day is better without them.
  const stays = new Set(after.leftOut.filter((visit) => hasPeople(question, visit)).map((visit) => nameOf(question, visit).id))
  const without = (ids: ReadonlySet<string>) => {
    const left = planned.filter(({ id }) => !ids.has(id))
    const changes = withoutSharedTwice(question, [...left, ...inTheWay(question, after, left, ids)])
    return { left, changes, clashes: clashesOf(question.file, changes) }
  }
  for (let now = without(stays); ;) {
    if (!now.clashes.length || !now.left.length) return { changes: now.clashes.length ? [] : now.changes, stays }
    const { change, with: other } = now.clashes[0]!
    const people = now.changes.flatMap(({ id, personIds }) => (id === change || id === other ? personIds : []))
    const near = now.left.filter(({ id, personIds }) => id === change || id === other || personIds.some((one) => people.includes(one)))
    // The one without which least is in the way; of several alike, one that waits already.
    const tried = (near.length ? near : now.left).slice(0, mostTried).map((one) => ({ one, then: without(new Set([...stays, one.id])) }))
    const [best] = tried.toSorted(
      (a, b) => a.then.clashes.length - b.then.clashes.length || Number(a.one.was !== null) - Number(b.one.was !== null),
    )
    stays.add(best!.one.id)
    now = best!.then
  }
}
/** Somebody goes there as it is booked. */
const hasPeople = ({ booked }: DayQuestion, visit: number) => booked.some((route) => route.includes(visit))
/** The plan with some visits where they are booked, or left out; null where that cannot be played. */
function withThemAsBooked({ asIs, booked, what }: DayQuestion, after: TimedPlan, stays: ReadonlySet<string>): TimedPlan | null {
  const isStaying = (visit: number) => stays.has((what[visit]!.booked ?? what[visit]!.open)!.id)
  const startOf = (visit: number) => what[visit]!.booked?.startsAt ?? ''
  const routes = after.routes.map((route, crew) => {
    const whole = route.filter((visit) => !isStaying(visit))
    for (const visit of (booked[crew] ?? []).filter(isStaying)) {
      const next = whole.findIndex((other) => startOf(other) > startOf(visit))
      whole.splice(next < 0 ? whole.length : next, 0, visit)
    }
    return whole
  })
  return timePlan(asIs, routes)
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
export function inTheWay(question: DayQuestion, after: TimedPlan, changes: Change[], stays: ReadonlySet<string> = new Set()): Change[] {
  const found = directlyInTheWay(question, after, changes, stays)
  return found.length ? [...found, ...inTheWay(question, after, [...changes, ...found], stays)] : []
}
function directlyInTheWay(question: DayQuestion, after: TimedPlan, changes: Change[], stays: ReadonlySet<string>): Change[] {
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
      .filter((visit) => visit.status !== 'done' && !changed.has(visit.id) && !stays.has(visit.id) && hits(visit))
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
