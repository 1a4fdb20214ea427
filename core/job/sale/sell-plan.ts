import { refuse, type EventDraft } from '../../stream/envelope'
import { done, type JobContext } from '../context'
import { jobCommand, jobEvent } from '../define'
import { judgeAtGang } from '../device-fit'
import { placesOf, unitAt } from '../progress'
import type { JobState } from '../state'
import { deviceChosen } from '../unit/choose-device'
import { deviceUnchosen } from '../unit/unchoose-device'
import { soldFor } from './sold'
import type { PlanSold, SellPlan } from './sell-plan.schema'

/** Follows from a signature: given by the program with the paper that was signed, never by hand. */
export const sellPlan = jobCommand('sellPlan', {
  by: 'system',
  decide(job, command: SellPlan, context) {
    if (job.sales.some(({ saleId }) => saleId === command.saleId)) return refuse('soldAlready', 'This was agreed already.')
    if (command.kind === 'change' && !job.sales.length) return refuse('nothingSold', 'Nothing was agreed yet that could be changed.')
    return done(planSold(command), ...choicesOf(job, command, context))
  },
})

/**
 * The devices that follow from what was agreed, in their gangs. What is installed stays; what does not fit by what is known now
 * is left to the bench, where it says so.
 */
function choicesOf(job: JobState, command: SellPlan, context: JobContext): EventDraft[] {
  const events: EventDraft[] = []
  const gone = command.solutions
    .flatMap(({ pointIds }) => pointIds.flatMap((id) => soldFor(job, id)?.solution.devices ?? []))
    .filter((old) => !command.solutions.some(({ devices }) => devices.some((one) => one.boxId === old.boxId && one.gang === old.gang)))
  for (const { boxId, gang } of gone)
    if (job.boxes[boxId]?.devices[gang] && !unitAt(job, boxId, gang)) events.push(deviceUnchosen({ boxId, gang }))
  for (const { pointIds, devices } of command.solutions)
    for (const { boxId, gang, modelId } of devices) {
      const box = context.site.boxes[boxId]
      const model = context.model(modelId)
      if (!box || box.retired || !model || unitAt(job, boxId, gang) || !job.boxIds.includes(boxId)) continue
      const points = pointIds.flatMap((id) => job.points[id] ?? [])
      const carries = model.kind !== 'companion' && model.kind !== 'sender'
      const here = points.filter((point) => placesOf(point).some((place) => place.boxId === boxId && place.gang === gang))
      const its = carries ? here : []
      if (judgeAtGang(job, context.site, box, gang, model, its).some(({ severity }) => severity === 'block')) continue
      events.push(deviceChosen({ boxId, gang, modelId, pointIds: its.map(({ id }) => id), model, against: null, together: null }))
    }
  return events
}

export const planSold = jobEvent('planSold', {
  // What is kept back follows from it, devices or not.
  rows: true,
  evolve(job, payload: PlanSold, event) {
    job.sales.push({ ...payload, at: event.receivedAt })
  },
  say: ({ kind, number, signer }) => `put down ${kind} ${number}, signed by ${signer}`,
})
