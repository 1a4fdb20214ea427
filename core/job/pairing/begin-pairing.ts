import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { madeAt } from '../touch'
import type { BeginPairing, PairingBegun } from './begin-pairing.schema'
import { windowOf } from './case-of'
import { openJoining, pairable, triedBy } from './pairing-of'

/** The gesture was made, and the device was seen to wait: the two minutes of patience begin. */
export const beginPairing = jobCommand('beginPairing', {
  by: 'crew',
  queues: true,
  decide(job, command: BeginPairing, context) {
    const found = pairable(job, command.unitId)
    if ('ok' in found) return found
    if (windowOf(job, context.site, found.unit, Date.parse(context.now)).is === 'off')
      return refuse(
        'noPower',
        `By the record {the breaker} of ${context.site.boxes[found.unit.boxId]!.name} is open: nothing can wait there.`,
        'Does it show something all the same, treat the box as live, and say on the {panel}’s page how its {breaker} was found.',
      )
    const mate = triedBy(job, command.unitId, context.actor.personId, Date.parse(context.now))
    if (mate) return refuse('pairedByMate', `${mate} is pairing it now.`, 'Take the next one, or wait for what comes of it.')
    return done(pairingBegun({ ...command, madeAt: madeAt(context) }))
  },
  label: () => 'pairing begun',
})

export const pairingBegun = jobEvent('pairingBegun', {
  evolve(job, { unitId, madeAt: at }: PairingBegun, { actor: { personId, initials } }) {
    const joining = openJoining(job, unitId)
    joining.open = { at, personId, initials }
    joining.roundSince ??= at
    joining.parked = null
  },
  say: ({ unitId }, { unit }) => `saw ${unit(unitId)} wait to be paired`,
})
