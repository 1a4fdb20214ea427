import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { BaselineKept, KeepBaseline } from './keep-baseline.schema'
import { openAutomation } from './automation-of'

/** How a motor that must run is when all is well, and when somebody is told that it is not. */
export const keepBaseline = jobCommand('keepBaseline', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: KeepBaseline) {
    const { deviceId, baseline, monitor, effect } = command
    if (!job.points[deviceId]) return refuse('noSuchPoint', 'That device is not in this job any more.')
    if (!(monitor.low < baseline.watts && baseline.watts < monitor.high))
      return refuse('linesWrong', 'The lines do not stand on both sides of what it takes.', 'Read its trace again.')
    if (!effect.what || !effect.value)
      return refuse(
        'noEffect',
        'Nothing says that it does its work: a motor may take its power and move nothing.',
        'Note a gauge, or the airflow, beside its watts.',
      )
    return done(baselineKept(command))
  },
  label: () => 'how a motor is when all is well',
})

export const baselineKept = jobEvent('baselineKept', {
  evolve(job, { deviceId, baseline, monitor, effect }: BaselineKept, event) {
    // Other lines are tried anew.
    openAutomation(job).monitors[deviceId] = { baseline, monitor, effect, at: event.at, by: event.actor.initials, checks: {} }
  },
  say: ({ deviceId, baseline, effect }, { job }) =>
    `noted how ${job.points[deviceId]?.name ?? 'a motor'} is when all is well: ${Math.round(baseline.watts)} W, ${effect.what} ${effect.value}`,
})
