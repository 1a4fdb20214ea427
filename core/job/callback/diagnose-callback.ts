import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { causeWords, remedyWords } from '../words'
import type { CallbackDiagnosed, DiagnoseCallback } from './diagnose-callback.schema'

export const diagnoseCallback = jobCommand('diagnoseCallback', {
  by: 'crew',
  decide(job, command: DiagnoseCallback) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status === 'closed') return refuse('callbackClosed', 'This callback is closed.')
    return done(callbackDiagnosed(command))
  },
})

export const callbackDiagnosed = jobEvent('callbackDiagnosed', {
  rows: true,
  evolve(job, payload: CallbackDiagnosed) {
    const callback = job.callbacks[payload.callbackId]!
    callback.status = 'diagnosed'
    callback.causeKind = payload.causeKind
    callback.cause = payload.cause
    callback.remedy = payload.remedy
  },
  say: (payload, { callbackUnit }) =>
    `diagnosed ${callbackUnit(payload.callbackId)}: ${causeWords[payload.causeKind]} – ${payload.cause.replace(/\.$/, '')}; remedy: ${remedyWords[payload.remedy]}`,
})
