import { wiringOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { boxOf, noBox } from '../refusals'
import { boxIsTestable } from '../test/testable'
import type { FunctionsObserved, ObserveFunctions } from './observe-functions.schema'

export const observeFunctions = jobCommand('observeFunctions', {
  by: 'crew',
  queues: true,
  decide(job, command: ObserveFunctions, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    return boxIsTestable(context, box.id) ?? done(functionsObserved(command))
  },
  label: () => 'what the box does',
})

export const functionsObserved = jobEvent('functionsObserved', {
  evolve(job, payload: FunctionsObserved) {
    wiringOn(job, payload.boxId).observed = payload.rows
  },
  say: (payload, { box }) => `noted what ${box(payload.boxId)} does in ${payload.rows.length} positions`,
})
