import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { handoverChecklist } from '../handover-list'
import type { HandoverTicked, TickHandover } from './tick-handover.schema'
import { evidenceWords } from './words'

export const tickHandover = jobCommand('tickHandover', {
  by: 'crew',
  queues: true,
  decide(job, command: TickHandover, { site }) {
    if (job.handedOverAt) return refuse('handedOver', 'This job is already handed over.')
    const item = handoverChecklist(job, site).find((candidate) => candidate.id === command.itemId)
    if (!item) return refuse('noSuchItem', 'This item is not on the checklist of this job.')
    if (item.auto) return refuse('computed', 'This item follows from the record and cannot be ticked by hand.', item.why)
    const pictured = command.rests === 'picture'
    if (command.done && pictured && !job.photos.some(({ id }) => id === command.photoId))
      return refuse('noPicture', 'There is no such picture in this job.', 'Take it first, then say what it shows.')
    return done(handoverTicked({ ...command, photoId: pictured ? command.photoId : null, text: item.text }))
  },
})

export const handoverTicked = jobEvent('handoverTicked', {
  lifts: [(payload) => ({ rests: 'seen', photoId: null, note: '', ...payload })],
  evolve(job, { itemId, done: isDone, rests, photoId, note }: HandoverTicked, event) {
    // What was seen by whoever ticked it needs no more words.
    const evidence = rests === 'seen' && !note ? {} : { rests, photoId, note }
    if (isDone) job.ticks[itemId] = { by: event.actor.initials, at: event.at, ...evidence }
    else delete job.ticks[itemId]
  },
  say: ({ done: isDone, text, rests, note }) =>
    `${isDone ? 'ticked' : 'unticked'} “${text}”${isDone && rests !== 'seen' ? `, ${evidenceWords[rests]}` : ''}${isDone && note ? `: ${note}` : ''}`,
})
