import { adding } from '../../stream/upcast'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { MoveVisit, VisitMoved } from './move-visit.schema'
import { doubleBooked, peopleAreUnknown, tiedHere, timesAreOdd, visitOrRefuse } from './visit-rules'

export const moveVisit = jobCommand('moveVisit', {
  by: 'office',
  decide(job, command: MoveVisit, context) {
    const visit = visitOrRefuse(job, command.visitId, ['planned', 'onSite'])
    if ('ok' in visit) return visit
    // Whoever has begun has arrived, whether or not anybody pressed it: a visit with things left open stays where it is.
    const gone = visit.personIds.filter((id) => !command.personIds.includes(id))
    const later = Date.parse(command.startsAt) !== Date.parse(visit.startsAt)
    return (
      tiedHere(context.site, later ? visit.personIds : gone) ??
      timesAreOdd(command, context) ??
      peopleAreUnknown(command.personIds, context) ??
      doubleBooked(command, context) ??
      done(visitMoved({ ...command, personIds: [...new Set(command.personIds)] }))
    )
  },
})

export const visitMoved = jobEvent('visitMoved', {
  rows: true,
  lifts: [adding({ alsoBooked: false })],
  evolve(job, payload: VisitMoved) {
    const { visitId, alsoBooked: _meant, ...rest } = payload
    Object.assign(job.visits[visitId]!, rest)
  },
  say: (payload, { nameOf }) => `changed the visit: ${payload.personIds.map(nameOf).join(' and ')}`,
})
