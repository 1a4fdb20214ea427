import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { Arrive, Arrived } from './arrive.schema'
import { ownVisitOrRefuse } from './visit-rules'

export const arrive = jobCommand('arrive', {
  by: 'itself',
  queues: true,
  decide(job, command: Arrive, { actor }) {
    const visit = ownVisitOrRefuse(job, command.visitId, ['planned', 'onSite'], actor)
    if ('ok' in visit) return visit
    return done(arrived(command))
  },
  label: () => 'arrived',
})

export const arrived = jobEvent('arrived', {
  rows: true,
  evolve(job, payload: Arrived, event) {
    const visit = job.visits[payload.visitId]!
    visit.status = 'onSite'
    visit.arrivedAt ??= event.at
  },
  say: () => 'arrived',
})
