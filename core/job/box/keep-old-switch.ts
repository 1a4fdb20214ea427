import { counted } from '../../units/counted'
import { refuse } from '../../stream/envelope'
import { workOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { boxOf, noBox } from '../refusals'
import type { KeepOldSwitch, OldSwitchKept } from './keep-old-switch.schema'

export const keepOldSwitch = jobCommand('keepOldSwitch', {
  by: 'crew',
  queues: true,
  decide(job, command: KeepOldSwitch, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (command.gang > box.gangs) return refuse('noSuchGang', `${box.name} has ${counted(box.gangs, 'gang')}.`)
    if (command.stays && job.boxes[box.id]?.devices[command.gang])
      return refuse('deviceChosen', `A device is chosen for gang ${command.gang} of ${box.name}.`, 'Say first that no device goes in here.')
    return done(oldSwitchKept(command))
  },
  label: (submission) => `old switch ${submission.stays ? 'stays' : 'does not stay'}`,
})

export const oldSwitchKept = jobEvent('oldSwitchKept', {
  evolve(job, payload: OldSwitchKept) {
    const work = workOn(job, payload.boxId)
    const others = (work.oldStays ?? []).filter((gang) => gang !== payload.gang)
    work.oldStays = payload.stays ? [...others, payload.gang] : others
  },
  say: (payload, { box }) =>
    payload.stays
      ? `the old switch stays at ${box(payload.boxId)}, gang ${payload.gang}`
      : `the old switch does not stay at ${box(payload.boxId)}, gang ${payload.gang}`,
})
