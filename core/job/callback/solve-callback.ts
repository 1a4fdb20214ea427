import { refuse } from '../../stream/envelope'
import { good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { CallbackSolved, SolveCallback } from './solve-callback.schema'

/** It works again by what the customer did while on the telephone; whether it stays so is asked later. */
export const solveCallback = jobCommand('solveCallback', {
  by: 'crewOrOffice',
  decide(job, command: SolveCallback) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status === 'closed') return refuse('callbackClosed', 'This callback is closed.')
    if (callback.status !== 'open') return refuse('callbackDiagnosed', 'Its cause is on record already.', 'Close it as it stands.')
    if (callback.call?.flags.length)
      return refuse(
        'dangerTold',
        'Something dangerous was told on the telephone: nobody mends that from afar.',
        'Send a licensed person today.',
      )
    const coming = Object.values(job.visits).some(
      ({ callbackId, status }) => callbackId === callback.id && (status === 'planned' || status === 'onSite'),
    )
    if (coming) return refuse('visitComing', 'A visit is booked for it.', 'Cancel the visit first.')
    return done(callbackSolved(command))
  },
})

export const callbackSolved = jobEvent('callbackSolved', {
  rows: true,
  evolve(job, payload: CallbackSolved, event) {
    const callback = job.callbacks[payload.callbackId]!
    callback.status = 'told'
    callback.causeId = payload.causeId
    callback.told = { how: payload.how, callBackOn: payload.callBackOn, at: event.at }
  },
  say: (payload, { callbackUnit }) =>
    good(
      `mended ${callbackUnit(payload.callbackId)} on the telephone – ${payload.how.replace(/\.$/, '')}; the customer is to be called back`,
    ),
})
