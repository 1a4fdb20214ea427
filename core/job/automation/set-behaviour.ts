import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { BehaviourSet, SetBehaviour } from './set-behaviour.schema'
import { openAutomation } from './automation-of'

/** What a device does by itself: after an interruption, after a while, and when somebody moves the lever. */
export const setBehaviour = jobCommand('setBehaviour', {
  by: 'crewOrOffice',
  queues: true,
  decide: (job, command: SetBehaviour) =>
    job.points[command.deviceId] ? done(behaviourSet(command)) : refuse('noSuchPoint', 'That device is not in this job any more.'),
  label: () => 'what a device does by itself',
})

export const behaviourSet = jobEvent('behaviourSet', {
  evolve(job, { deviceId, behaviour }: BehaviourSet) {
    openAutomation(job).behaviours[deviceId] = behaviour
  },
  say: ({ deviceId, behaviour: { powerOn, autoOnMinutes, autoOffMinutes, mustRun } }, { job }) =>
    [
      `set what ${job.points[deviceId]?.name ?? 'a device'} does by itself: ${powerOn === 'last' ? 'as it was' : powerOn} after an interruption`,
      ...(autoOnMinutes === null ? [] : [`on again after ${autoOnMinutes} min`]),
      ...(autoOffMinutes === null ? [] : [`off after ${autoOffMinutes} min`]),
      ...(mustRun ? ['it must run'] : []),
    ].join(', '),
})
