import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { CancelVisit, VisitCancelled } from './cancel-visit.schema'
import { tiedHere, visitOrRefuse } from './visit-rules'

export const cancelVisit = jobCommand('cancelVisit', {
  by: 'office',
  decide(job, command: CancelVisit, { site }) {
    const visit = visitOrRefuse(job, command.visitId, ['planned'])
    if ('ok' in visit) return visit
    return tiedHere(site, visit.personIds) ?? done(visitCancelled(command))
  },
})

export const visitCancelled = jobEvent('visitCancelled', {
  rows: true,
  evolve(job, payload: VisitCancelled) {
    job.visits[payload.visitId]!.status = 'cancelled'
  },
  say: (payload) => `cancelled the visit – ${payload.reason}`,
})
