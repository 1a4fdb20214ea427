import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { DropRoutine, RoutineDropped } from './drop-routine.schema'
import { automationOf, openAutomation } from './automation-of'

export const dropRoutine = jobCommand('dropRoutine', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, { routineId }: DropRoutine) {
    const known = automationOf(job).routines[routineId]
    return known
      ? done(routineDropped({ routineId, name: known.routine.name }))
      : refuse('noSuchRoutine', 'It is not there any more: somebody else deleted it.')
  },
  label: () => 'delete a schedule or rule',
})

export const routineDropped = jobEvent('routineDropped', {
  evolve(job, { routineId }: RoutineDropped) {
    delete openAutomation(job).routines[routineId]
  },
  say: ({ name }) => `deleted “${name}”`,
})
