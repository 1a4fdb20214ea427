import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { joiningOf, openJoining, pairable } from './pairing-of'
import type { TakeUpUnit, UnitTakenUp } from './take-up-unit.schema'

/** A parked device is tried again: what was seen and tried stays known, the tries are counted anew. */
export const takeUpUnit = jobCommand('takeUpUnit', {
  by: 'crew',
  queues: true,
  decide(job, command: TakeUpUnit) {
    const found = pairable(job, command.unitId)
    if ('ok' in found) return found
    return joiningOf(job, command.unitId).parked ? done(unitTakenUp(command)) : refuse('notParked', 'It is on the list already.')
  },
  label: () => 'taken up again',
})

export const unitTakenUp = jobEvent('unitTakenUp', {
  evolve(job, { unitId }: UnitTakenUp) {
    Object.assign(openJoining(job, unitId), { parked: null, tries: 0, roundSince: null })
  },
  say: ({ unitId }, { unit }) => `took ${unit(unitId)} up again`,
})
