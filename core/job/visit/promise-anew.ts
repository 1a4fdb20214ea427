import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { tellingWords } from '../words'
import type { PromiseAnew, PromisedAnew } from './promise-anew.schema'
import { promiseIsOdd, visitOrRefuse } from './visit-rules'

/** Between the booked beginning and a window that is promised instead. */
const furthestPromiseHours = 12

/** A new window for a visit whose time stays booked: its crew runs late and says so, or the office does. */
export const promiseAnew = jobCommand('promiseAnew', {
  by: 'itself',
  decide(job, command: PromiseAnew, { actor, now }) {
    const visit = visitOrRefuse(job, command.visitId, ['planned'])
    if ('ok' in visit) return visit
    if (!visit.personIds.includes(actor.personId) && actor.role !== 'lead' && actor.role !== 'dispatcher')
      return refuse('notOnVisit', 'You are not on this visit.', 'Its crew or the office promises another time.')
    const odd = promiseIsOdd(command, 'Promise a shorter one.')
    if (odd) return odd
    if (Date.parse(command.windowTo) <= Date.parse(now))
      return refuse('timesOdd', 'That time is over.', 'Promise a time that is still to come.')
    // Its time stays booked: a promise far from it is one that nobody keeps.
    if (Math.abs(Date.parse(command.windowFrom) - Date.parse(visit.startsAt)) > furthestPromiseHours * 3_600_000)
      return refuse('timesOdd', 'The crew is booked for another day than that.', 'Move the visit first.')
    return done(promisedAnew(command))
  },
})

export const promisedAnew = jobEvent('promisedAnew', {
  rows: true,
  evolve(job, { visitId, windowFrom, windowTo }: PromisedAnew) {
    Object.assign(job.visits[visitId]!, { windowFrom, windowTo })
  },
  say: ({ told }) => `promised the customer another time, ${tellingWords[told]}`,
})
