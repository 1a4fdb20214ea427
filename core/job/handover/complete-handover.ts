import { refuse } from '../../stream/envelope'
import { good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { handoverObstacles } from '../handover-list'
import type { CompleteHandover, HandoverCompleted } from './complete-handover.schema'

export const completeHandover = jobCommand('completeHandover', {
  by: 'crew',
  decide(job, _command: CompleteHandover, { site }) {
    if (job.handedOverAt) return refuse('handedOver', 'This job is already handed over.')
    const obstacles = handoverObstacles(job, site)
    if (obstacles.length)
      return refuse('notReady', obstacles, 'A failing point may be listed as an open defect that the customer signs for.')
    return done(handoverCompleted({}))
  },
})

export const handoverCompleted = jobEvent('handoverCompleted', {
  rows: true,
  evolve(job, _payload: HandoverCompleted, event) {
    job.handedOverAt = event.at
  },
  say: () => good('handed the job over'),
})
