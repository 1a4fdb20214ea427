import { wiringOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { boxOf, noBox } from '../refusals'
import type { ForgetReadings, ReadingsForgotten } from './forget-readings.schema'

export const forgetReadings = jobCommand('forgetReadings', {
  by: 'crew',
  decide(job, command: ForgetReadings, context) {
    return boxOf(job, context, command.boxId) ? done(readingsForgotten(command)) : noBox()
  },
})

export const readingsForgotten = jobEvent('readingsForgotten', {
  evolve(job, payload: ReadingsForgotten) {
    Object.assign(wiringOn(job, payload.boxId), { readings: [], plan: null, observed: [] })
  },
  say: (payload, { box }) => `cleared the readings of ${box(payload.boxId)} –  ${payload.reason}`,
})
