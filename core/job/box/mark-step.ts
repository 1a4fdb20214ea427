import { inTrade } from '../../units/trade-words'
import { adding } from '../../stream/upcast'
import { refuse } from '../../stream/envelope'
import { workOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { stepsFor } from '../progress'
import { boxOf, noBox } from '../refusals'
import { doubtWords } from '../telling'
import { touchedOrRefuse } from '../touch'
import type { MarkStep, StepMarked } from './mark-step.schema'

export const markStep = jobCommand('markStep', {
  by: 'crew',
  queues: true,
  decide(job, command: MarkStep, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const step = stepsFor(job, context.site, box.id, command.gang, context.method).find((candidate) => candidate.id === command.stepId)
    const mark = job.boxes[box.id]?.steps[`${command.gang}:${command.stepId}`]
    // What was done under another plan is undone, and then its mark goes.
    const undone = !command.done && mark
    if (!step && !undone)
      return job.boxes[box.id]?.devices[command.gang]
        ? refuse(
            'planFirst',
            'This box has several gangs, feeds or control locations: its steps follow from the wiring plan.',
            'Identify the conductors at the wiring bench, and place the wiring there.',
          )
        : refuse('noSuchStep', 'Choose the device first; its steps follow from it.')
    const touched = touchedOrRefuse(context, box.id)
    if ('ok' in touched) return touched
    const modelId = job.boxes[box.id]?.devices[command.gang]?.model.id ?? null
    return done(stepMarked({ ...command, text: inTrade(undone ? mark.text : step!.text, context.site.schemeId), modelId, ...touched }))
  },
  label: () => 'step done',
})

/** A step is known by its sentence: one that reads otherwise today is the same work. */
const reworded = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, {
    text: String(payload.text)
      .replace('the conductor that is listened to', 'the signal conductor')
      .replace('carries the load listens on', 'carries the load takes the signal on'),
  })

export const stepMarked = jobEvent('stepMarked', {
  lifts: [adding({ modelId: null }), adding({ inDoubt: false }), reworded],
  evolve(job, payload: StepMarked, event) {
    const steps = workOn(job, payload.boxId).steps
    const key = `${payload.gang}:${payload.stepId}`
    const { text, modelId } = payload
    if (payload.done) steps[key] = { by: event.actor.initials, at: event.at, text, modelId, ...(payload.inDoubt ? { inDoubt: true } : {}) }
    else delete steps[key]
  },
  say: (payload, { box }) =>
    `${payload.done ? 'did' : 'took back'} at ${box(payload.boxId)}: ${payload.text}${payload.inDoubt ? doubtWords : ''}`,
})
