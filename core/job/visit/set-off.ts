import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { CrewSetOff, SetOff } from './set-off.schema'
import { ownVisitOrRefuse } from './visit-rules'

/** The one thing that is asked of a crew on its way: what comes after follows from the work. */
export const setOff = jobCommand('setOff', {
  by: 'itself',
  queues: true,
  decide(job, command: SetOff, { actor }) {
    const visit = ownVisitOrRefuse(job, command.visitId, ['planned'], actor)
    if ('ok' in visit) return visit
    if (command.startsAt && Date.parse(command.startsAt) !== Date.parse(visit.startsAt))
      return refuse('visitMoved', 'This visit was moved to another time meanwhile.', 'Look at your day, then say it again.')
    return done(crewSetOff(command))
  },
  label: () => 'on the way',
})

export const crewSetOff = jobEvent('crewSetOff', {
  rows: true,
  evolve(job, payload: CrewSetOff, event) {
    const visit = job.visits[payload.visitId]!
    // Who waited on a phone without network may have arrived meanwhile.
    if (visit.status !== 'planned') return
    visit.setOffAt = event.at
    visit.expectedAt = payload.expectedAt ?? undefined
  },
  say: () => 'set off for the home',
})
