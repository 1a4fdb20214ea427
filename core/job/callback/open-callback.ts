import { callbackSigns } from '../words'
import { refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import type { CallbackOpened, OpenCallback } from './open-callback.schema'

export const openCallback = jobCommand('openCallback', {
  by: 'crewOrOffice',
  decide(job, command: OpenCallback) {
    if (job.callbacks[command.callbackId]) return refuse('callbackExists', 'This callback is already open.')
    const unit = job.units[command.unitId]
    if (!unit || unit.removedAt) return noUnit()
    const open = Object.values(job.callbacks).find((callback) => callback.unitId === unit.id && callback.status !== 'closed')
    if (open) return refuse('callbackExists', `A callback for ${unit.name || unit.serial} is already open.`, 'Add to that one.')
    return done(callbackOpened(command))
  },
})

/** Fewer things were asked before. */
const withCall = (payload: Record<string, unknown>) => ({ call: null, ...payload })

export const callbackOpened = jobEvent('callbackOpened', {
  rows: true,
  lifts: [withCall],
  evolve(job, payload: CallbackOpened, event) {
    const { callbackId, unitId, what, since, call } = payload
    const signs = callbackSigns.filter((sign) => payload[sign])
    job.callbacks[callbackId] = {
      id: callbackId,
      unitId,
      what,
      since,
      signs,
      call,
      status: 'open',
      causeId: null,
      confirmedBy: '',
      payer: call?.payer ?? null,
      told: null,
      causeKind: null,
      cause: '',
      remedy: null,
      resolution: '',
      openedAt: event.at,
      closedAt: null,
      replacedBy: null,
    }
  },
  say: (payload, { unit }) =>
    alarm(
      `opened a callback for ${unit(payload.unitId)} – ${payload.what}${payload.call?.flags.length ? '; something dangerous was told' : ''}`,
    ),
})
