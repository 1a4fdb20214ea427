import { observationWords } from '../../commission/pairing/words'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { madeAt } from '../touch'
import { failTry, openJoining, pairable } from './pairing-of'
import type { SeeSign, SignSeen } from './see-sign.schema'

/** Something else than success was seen, at the device or in the app. It ends a try that goes on. */
export const seeSign = jobCommand('seeSign', {
  by: 'crew',
  queues: true,
  decide(job, command: SeeSign, context) {
    const found = pairable(job, command.unitId)
    return 'ok' in found ? found : done(signSeen({ ...command, madeAt: madeAt(context) }))
  },
  label: ({ seen }) => observationWords[seen],
})

export const signSeen = jobEvent('signSeen', {
  material: true,
  evolve(job, { unitId, seen, madeAt: at }: SignSeen, event) {
    const joining = openJoining(job, unitId)
    const unit = job.units[unitId]!
    joining.history.push({ seen, at, initials: event.actor.initials, ...(joining.open ? { waited: true as const } : {}) })
    joining.roundSince ??= at
    if (!joining.open) return
    failTry(joining)
    // What has joined before and is tried anew has not joined.
    unit.pairing = {
      ...{ result: 'failed', network: '', signal: null, note: observationWords[seen] },
      attempts: (unit.pairing?.attempts ?? 0) + 1,
    }
  },
  say: ({ unitId, seen }, { unit }) => `looked at ${unit(unitId)}: ${observationWords[seen]}`,
})
