import { adding } from '../../stream/upcast'
import { done, type JobContext, type JobDecision } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { JobState } from '../state'
import type { MoveVisit, MoveVisitForCustomer, VisitMoved } from './move-visit.schema'
import { doubleBooked, peopleAreUnknown, tiedHere, timesAreOdd, visitOrRefuse } from './visit-rules'

function moved(job: JobState, command: MoveVisit, context: JobContext, byCustomer: boolean): JobDecision {
  const visit = visitOrRefuse(job, command.visitId, byCustomer ? ['planned'] : ['planned', 'onSite'])
  if ('ok' in visit) return visit
  // Whoever has begun has arrived, whether or not anybody pressed it: a visit with things left open stays where it is.
  const gone = visit.personIds.filter((id) => !command.personIds.includes(id))
  const later = Date.parse(command.startsAt) !== Date.parse(visit.startsAt)
  return (
    tiedHere(context.site, later ? visit.personIds : gone) ??
    timesAreOdd(command, context) ??
    peopleAreUnknown(command.personIds, context) ??
    doubleBooked(command, context) ??
    done(visitMoved({ ...command, personIds: [...new Set(command.personIds)], byCustomer }))
  )
}

export const moveVisit = jobCommand('moveVisit', {
  by: 'office',
  decide: (job, command: MoveVisit, context) => moved(job, command, context, false),
})

/** Given by the program when the customer chose on their page. */
export const moveVisitForCustomer = jobCommand('moveVisitForCustomer', {
  by: 'system',
  decide: (job, command: MoveVisitForCustomer, context) => moved(job, command, context, true),
})

export const visitMoved = jobEvent('visitMoved', {
  rows: true,
  lifts: [adding({ alsoBooked: false }), adding({ byCustomer: false })],
  evolve(job, payload: VisitMoved) {
    const { visitId, alsoBooked: _meant, byCustomer: _chosen, ...rest } = payload
    const visit = job.visits[visitId]!
    // Who was on the way to it is so no more, if it begins at another time or others go.
    const same = Date.parse(visit.startsAt) === Date.parse(rest.startsAt) && visit.personIds.some((id) => rest.personIds.includes(id))
    if (!same) {
      delete visit.setOffAt
      delete visit.expectedAt
    }
    Object.assign(visit, rest)
  },
  say: ({ personIds, byCustomer }, { nameOf }) =>
    byCustomer
      ? 'moved the visit to a time that the customer chose on their page'
      : `changed the visit: ${personIds.map(nameOf).join(' and ')}`,
})
