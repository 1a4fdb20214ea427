import { refuse } from '../../stream/envelope'
import { good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { pointsOfUnit, pointStatus } from '../progress'
import type { CallbackClosed, CloseCallback } from './close-callback.schema'

export const closeCallback = jobCommand('closeCallback', {
  by: 'crew',
  decide(job, command: CloseCallback, { site }) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status === 'closed') return refuse('callbackClosed', 'This callback is already closed.')
    if (callback.status === 'told')
      return refuse(
        'toHearBack',
        'It was mended on the telephone, and the customer is still to be called back.',
        'Call, and write down what they say.',
      )
    if (callback.status === 'open') return refuse('notDiagnosed', 'Record the cause before closing.')
    if (callback.remedy === 'replace' && !callback.replacedBy)
      return refuse('notReplaced', 'The remedy is to replace the device, and no new device is recorded.')
    const unit = job.units[callback.replacedBy ?? callback.unitId]!
    const failing = pointsOfUnit(job, unit).filter((point) => pointStatus(job, site, point) !== 'passed')
    if (failing.length)
      return refuse(
        'notTested',
        `Not every check passes: ${failing.map((point) => point.name).join(', ')}.`,
        'Test again after the repair.',
      )
    if (callback.replacedBy && unit.model.setupCode !== 'none' && unit.pairing?.result !== 'joined')
      return refuse('notPaired', 'The new device is not paired yet.', 'Pair it, then close.')
    return done(callbackClosed(command))
  },
})

export const callbackClosed = jobEvent('callbackClosed', {
  rows: true,
  evolve(job, payload: CallbackClosed, event) {
    const callback = job.callbacks[payload.callbackId]!
    callback.status = 'closed'
    callback.resolution = payload.resolution
    callback.closedAt = event.at
  },
  say: (payload, { callbackUnit }) => good(`closed the callback for ${callbackUnit(payload.callbackId)} – ${payload.resolution}`),
})
