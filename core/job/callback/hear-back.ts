import { refuse } from '../../stream/envelope'
import { alarm, good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { HearBack, HeardBack } from './hear-back.schema'

/** The customer was called back: it stays mended, and that is the cause; or it does not, and somebody has to come. */
export const hearBack = jobCommand('hearBack', {
  by: 'crewOrOffice',
  decide(job, command: HearBack) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status !== 'told') return refuse('nothingTold', 'Nothing was mended on the telephone here, or it was asked already.')
    return done(heardBack(command))
  },
})

export const heardBack = jobEvent('heardBack', {
  rows: true,
  evolve(job, payload: HeardBack, event) {
    const callback = job.callbacks[payload.callbackId]!
    const { causeId } = callback
    if (payload.works) {
      callback.status = 'closed'
      callback.resolution = payload.said || callback.told!.how
      callback.closedAt = event.at
      return
    }
    callback.status = 'open'
    callback.causeId = null
    callback.told = null
    // What did not last was no cure: it counts against that cause.
    if (callback.call && causeId) {
      const tried = callback.call.tried.filter(({ cause }) => cause !== causeId)
      callback.call = { ...callback.call, tried: [...tried, { cause: causeId, mended: false }] }
    }
  },
  say: (payload, { callbackUnit }) => {
    const said = payload.said ? ` – ${payload.said}` : ''
    return payload.works
      ? good(`heard that ${callbackUnit(payload.callbackId)} still works, and closed the callback${said}`)
      : alarm(`heard that ${callbackUnit(payload.callbackId)} fails again${said}`)
  },
})
