import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { handoverChecklist } from '../handover-list'
import type { HandoverTicked, TickHandover } from './tick-handover.schema'

export const tickHandover = jobCommand('tickHandover', {
  by: 'crew',
  queues: true,
  decide(job, command: TickHandover, { site }) {
    if (job.handedOverAt) return refuse('handedOver', 'This job is already handed over.')
    const item = handoverChecklist(job, site).find((candidate) => candidate.id === command.itemId)
    if (!item) return refuse('noSuchItem', 'This item is not on the checklist of this job.')
    if (item.auto) return refuse('computed', 'This item follows from the record and cannot be ticked by hand.', item.why)
    return done(handoverTicked({ ...command, text: item.text }))
  },
})

export const handoverTicked = jobEvent('handoverTicked', {
  evolve(job, payload: HandoverTicked, event) {
    if (payload.done) job.ticks[payload.itemId] = { by: event.actor.initials, at: event.at }
    else delete job.ticks[payload.itemId]
  },
  say: (payload) => `${payload.done ? 'ticked' : 'unticked'} “${payload.text}”`,
})
