import { adding } from '../../stream/upcast'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { ScheduleVisit, VisitScheduled } from './schedule-visit.schema'
import { doubleBooked, peopleAreUnknown, timesAreOdd } from './visit-rules'

export const scheduleVisit = jobCommand('scheduleVisit', {
  by: 'office',
  decide(job, command: ScheduleVisit, context) {
    if (job.visits[command.visitId]) return refuse('visitExists', 'This visit already exists.')
    if (command.kind === 'callback' && !job.callbacks[command.callbackId ?? ''])
      return refuse('noSuchCallback', 'A callback visit belongs to a callback of this job.')
    return (
      timesAreOdd(command, context) ??
      peopleAreUnknown(command.personIds, context) ??
      doubleBooked(command, context) ??
      done(visitScheduled({ ...command, personIds: [...new Set(command.personIds)] }))
    )
  },
})

export const visitScheduled = jobEvent('visitScheduled', {
  rows: true,
  lifts: [adding({ alsoBooked: false })],
  evolve(job, payload: VisitScheduled) {
    const { visitId, alsoBooked: _meant, ...rest } = payload
    job.visits[visitId] = { id: visitId, ...rest, status: 'planned', arrivedAt: null, finishedAt: null }
  },
  say: (payload, { nameOf }) =>
    `scheduled ${payload.kind === 'install' ? 'an' : 'a'} ${payload.kind} visit for ${payload.personIds.map(nameOf).join(' and ')}`,
})
