import { leftBehind } from '../../site/crew/leaving'
import type { SiteState } from '../../site/state'
import { type Actor, type Refusal, refuse } from '../../stream/envelope'
import type { JobContext } from '../context'
import type { JobState, Visit } from '../state'

export function visitOrRefuse(job: JobState, visitId: string, wanted: Visit['status'][]): Visit | { ok: false; refusal: Refusal } {
  const visit = job.visits[visitId]
  if (!visit) return refuse('noSuchVisit', 'There is no such visit on this job.')
  if (!wanted.includes(visit.status))
    return refuse(
      'visitState',
      `This visit is ${{ planned: 'still planned', onSite: 'under way', done: 'finished', cancelled: 'cancelled' }[visit.status]}.`,
    )
  return visit
}

/** Its people and a lead do something with a visit. */
export function ownVisitOrRefuse(job: JobState, visitId: string, wanted: Visit['status'][], actor: Actor) {
  const visit = visitOrRefuse(job, visitId, wanted)
  if ('ok' in visit || visit.personIds.includes(actor.personId) || actor.role === 'lead') return visit
  return refuse('notOnVisit', 'You are not on this visit.', 'Ask the dispatcher to put you on it.')
}

/** So long a visit that was ended may be gone on with. */
export const resumeHours = 12

/** Was it ended, by mistake perhaps, so short a time ago that its people may go on with it? */
export const mayResume = ({ status, finishedAt }: Visit, now: string): boolean =>
  status === 'done' && finishedAt !== null && Date.parse(now) - Date.parse(finishedAt) <= resumeHours * 3_600_000

/** Somebody of these people has things left open at the site: then planning waits. */
export function tiedHere(site: SiteState, personIds: string[]) {
  for (const personId of personIds) {
    const left = leftBehind(site, personId)
    const name = site.people[personId]?.name
    if (left)
      return refuse(
        'leftBehind',
        `${name} has ${left} at this site: the visit cannot be moved or taken from them.`,
        `${name} finishes there first. If they are gone for good, a lead ends what they left.`,
      )
  }
  return null
}

/** A window that is longer is a slip of the clock. */
export const longestPromiseHours = 12

/** So is a visit of more than a day. */
const longestVisitHours = 24

/** A visit that is booked further ahead is a slip of the year: nobody would see it again. */
const furthestDays = 3660

/** A promise that is none, whatever is booked. */
export function promiseIsOdd({ windowFrom, windowTo }: { windowFrom: string; windowTo: string }, toYes: string) {
  const [from, to] = [Date.parse(windowFrom), Date.parse(windowTo)]
  if (to <= from) return refuse('timesOdd', 'The promised window ends before it starts.')
  if (to - from > longestPromiseHours * 3_600_000)
    return refuse('timesOdd', `A promise of more than ${longestPromiseHours} hours is none.`, toYes)
  return null
}

export function timesAreOdd(times: { startsAt: string; endsAt: string; windowFrom: string; windowTo: string }, { now }: JobContext) {
  const hour = 3_600_000
  const startsAt = Date.parse(times.startsAt)
  const endsAt = Date.parse(times.endsAt)
  const windowFrom = Date.parse(times.windowFrom)
  const windowTo = Date.parse(times.windowTo)
  const odd = (reason: string, toYes: string | string[] = []) => refuse('timesOdd', reason, toYes)
  if (endsAt <= startsAt) return odd('The visit ends before it starts.')
  if (endsAt - startsAt > longestVisitHours * hour)
    return odd(`A visit of more than ${longestVisitHours} hours is more than one.`, 'Schedule one for each day.')
  if (endsAt < Date.parse(now) - longestVisitHours * hour) return odd('That day is over.', 'Look at the date.')
  if (startsAt > Date.parse(now) + furthestDays * 24 * hour) return odd('That is more than ten years away.', 'Look at the year.')
  const promise = promiseIsOdd(times, 'Look at the promised times: does the window end on the day you mean?')
  if (promise) return promise
  // What the customer was told, and when the crew comes, are one thing.
  if (startsAt > windowTo || endsAt <= windowFrom)
    return odd('The crew is not there in the time that was promised.', 'Promise a time that holds the start of the visit.')
  return null
}

/** Somebody is on another visit at that time, or away. */
export function doubleBooked(command: { alsoBooked?: boolean }, { bookedElsewhere }: JobContext) {
  if (command.alsoBooked || !bookedElsewhere.length) return null
  return refuse(
    'doubleBooked',
    bookedElsewhere.map(({ name, what, from, to, away }) =>
      away ? `${name} is away from ${from} to ${to}: ${what}.` : `${name} is at ${what} from ${from} to ${to}.`,
    ),
    'Choose another time or somebody else, or book them anyway.',
  )
}

export function peopleAreUnknown(personIds: string[], context: JobContext) {
  return personIds.every((id) => context.isPerson(id))
    ? null
    : refuse('noSuchPerson', 'Somebody on this visit does not work in this branch.')
}
