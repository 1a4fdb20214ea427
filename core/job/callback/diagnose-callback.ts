import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { causeWords, payerWords, remedyWords } from '../words'
import type { CallbackDiagnosed, DiagnoseCallback } from './diagnose-callback.schema'

export const diagnoseCallback = jobCommand('diagnoseCallback', {
  by: 'crew',
  decide(job, command: DiagnoseCallback) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status === 'closed') return refuse('callbackClosed', 'This callback is closed.')
    if (command.remedy === 'replace' && command.causeId && (command.confirmedBy ?? '').length < 5)
      return refuse(
        'notConfirmed',
        'A swap is no diagnosis: the next device may fail for the same reason.',
        'Write what you looked at or measured that shows it.',
      )
    return done(callbackDiagnosed(command))
  },
})

const withCause = (payload: Record<string, unknown>) => ({ causeId: null, confirmedBy: '', payer: null, ...payload })

export const callbackDiagnosed = jobEvent('callbackDiagnosed', {
  rows: true,
  lifts: [withCause],
  evolve(job, payload: CallbackDiagnosed) {
    const callback = job.callbacks[payload.callbackId]!
    callback.status = 'diagnosed'
    callback.causeKind = payload.causeKind
    callback.cause = payload.cause
    callback.remedy = payload.remedy
    callback.causeId = payload.causeId
    callback.confirmedBy = payload.confirmedBy
    callback.payer = payload.payer ?? callback.payer
    callback.told = null
  },
  say: (payload, { callbackUnit }) =>
    `diagnosed ${callbackUnit(payload.callbackId)}: ${causeWords[payload.causeKind]} – ${payload.cause.replace(/\.$/, '')}; remedy: ${remedyWords[payload.remedy]}${payload.confirmedBy ? `; shown by: ${payload.confirmedBy.replace(/\.$/, '')}` : ''}${payload.payer ? `; paid by ${payerWords[payload.payer]}` : ''}`,
})
