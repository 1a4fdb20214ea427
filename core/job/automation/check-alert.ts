import { alertCheckWords } from '../../automation/words'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { AlertChecked, CheckAlert } from './check-alert.schema'
import { automationOf, openAutomation } from './automation-of'

/** An alert that nobody has seen is none: it is provoked, seen to come, to come again, and to stay away when the motor was meant off. */
export const checkAlert = jobCommand('checkAlert', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: CheckAlert) {
    if (!automationOf(job).monitors[command.deviceId])
      return refuse('noMonitor', 'Nothing watches that device yet.', 'Read its trace first.')
    if (command.result === 'fail' && !command.note) return refuse('noteMissing', 'A fail needs a note.', 'Say what was seen.')
    return done(alertChecked(command))
  },
  label: ({ check }) => alertCheckWords[check],
})

export const alertChecked = jobEvent('alertChecked', {
  evolve(job, { deviceId, check, result, note }: AlertChecked, event) {
    const known = openAutomation(job).monitors[deviceId]
    if (known) known.checks[check] = { result, note, by: event.actor.initials, at: event.at }
  },
  say: ({ deviceId, check, result, note }, { job }) =>
    `tried the alert of ${job.points[deviceId]?.name ?? 'a motor'}: ${alertCheckWords[check]}: ${result}${note ? ` (${note})` : ''}`,
})
