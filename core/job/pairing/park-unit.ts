import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { madeAt } from '../touch'
import { joiningOf, openJoining, pairable } from './pairing-of'
import type { ParkUnit, UnitParked } from './park-unit.schema'

/** Three tries or ten minutes are enough: it waits at the foot of the list until the room is done. */
export const parkUnit = jobCommand('parkUnit', {
  by: 'crew',
  queues: true,
  decide(job, command: ParkUnit, context) {
    const found = pairable(job, command.unitId)
    if ('ok' in found) return found
    const { open, history } = joiningOf(job, command.unitId)
    if (found.unit.pairing?.result === 'joined' && !open && history.length === 0)
      return refuse('joined', 'It is paired: there is nothing to come back to.')
    return done(unitParked({ ...command, madeAt: madeAt(context) }))
  },
  label: () => 'parked',
})

export const unitParked = jobEvent('unitParked', {
  evolve(job, { unitId, madeAt: at }: UnitParked, event) {
    const joining = openJoining(job, unitId)
    joining.open = null
    joining.parked = { at, initials: event.actor.initials }
  },
  say: ({ unitId }, { unit }) => `left ${unit(unitId)} for later: it did not pair`,
})
