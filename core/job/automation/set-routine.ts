import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { automationOf, mostRoutines, openAutomation } from './automation-of'
import type { RoutineSet, SetRoutine } from './set-routine.schema'

/** A schedule or a rule of the home, new or as it is from now on. */
export const setRoutine = jobCommand('setRoutine', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, { routine }: SetRoutine, { actor, jobSeq }) {
    const { routines } = automationOf(job)
    const known = routines[routine.id]
    if (!known && Object.keys(routines).length >= mostRoutines)
      return refuse('tooManyRoutines', `A home has at most ${mostRoutines} schedules and rules.`, 'Delete one that is not used any more.')
    const sameName = Object.values(routines).find(
      (other) => other.routine.id !== routine.id && other.routine.name.toLowerCase() === routine.name.toLowerCase(),
    )
    if (sameName) return refuse('nameTaken', `There is a “${sameName.routine.name}” already.`, 'Give it another name.')
    // Whoever had not seen the newest would undo it without knowing.
    if (known && jobSeq !== null && known.seq > jobSeq && known.personId !== actor.personId)
      return refuse(
        'changedMeanwhile',
        `${known.initials} changed “${known.routine.name}” meanwhile.`,
        'Look at it as it is now, and change it again.',
      )
    const timed = routine.kind === 'pair' && !routine.days.length && routine.date === null
    const onceSometime = routine.kind === 'rule' && routine.when.some((one) => one.is === 'time' && !one.days.length && one.date === null)
    if (timed || onceSometime) return refuse('noDay', 'It has neither a day nor a date.', 'Choose the days, or a date for once.')
    if (routine.kind === 'pair' && JSON.stringify(routine.on) === JSON.stringify(routine.off))
      return refuse('onIsOff', 'It goes on and off at the same moment.', 'Choose another time for one of them.')
    return done(routineSet({ routine }))
  },
  label: ({ routine }) => `“${routine.name}”`,
})

export const routineSet = jobEvent('routineSet', {
  evolve(job, { routine }: RoutineSet, event) {
    const { personId, initials } = event.actor
    openAutomation(job).routines[routine.id] = { routine, seq: event.seq, personId, initials }
  },
  say: ({ routine }) => `set “${routine.name}”${routine.paused ? ', paused' : ''}`,
})
