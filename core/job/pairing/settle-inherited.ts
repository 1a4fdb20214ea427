import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { openPairing, pairable, pairingOf } from './pairing-of'
import type { InheritedSettled, SettleInherited } from './settle-inherited.schema'

/** A device that was added again may have brought back its old name, room and schedules: somebody looked, and kept or cleared them. */
export const settleInherited = jobCommand('settleInherited', {
  by: 'crew',
  queues: true,
  decide(job, command: SettleInherited) {
    const found = pairable(job, command.unitId)
    if ('ok' in found) return found
    return pairingOf(job).inherited.includes(command.unitId)
      ? done(inheritedSettled(command))
      : refuse('notAddedAgain', 'It was not added again since somebody looked.')
  },
  label: ({ is }) => `what it brought back: ${is}`,
})

export const inheritedSettled = jobEvent('inheritedSettled', {
  evolve(job, { unitId }: InheritedSettled) {
    const pairing = openPairing(job)
    pairing.inherited = pairing.inherited.filter((id) => id !== unitId)
  },
  say: ({ unitId, is }, { unit }) => `looked at what ${unit(unitId)} brought back (name, room, schedules): ${is}`,
})
