import { withFitOfModel, withGesturesOfModel, withBatteryOfModel, withHandsOfModel, withModel, withPairingOfModel } from '../lifts'
import { refuse } from '../../stream/envelope'
import { unnamed, workOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { noUnit } from '../refusals'
import { placeInGroup } from '../progress'
import { serialKey } from '../shop/prepared'
import { touchOrRefuse } from '../touch'
import { stillSpeaks } from '../unit/batteries'
import { codeAtWall } from '../unit/read-code'
import { waiting } from '../unit/returns'
import type { ReplaceUnit, UnitReplaced } from './replace-unit.schema'

export const replaceUnit = jobCommand('replaceUnit', {
  by: 'crew',
  decide(job, command: ReplaceUnit, context) {
    const callback = job.callbacks[command.callbackId]
    if (!callback) return refuse('noSuchCallback', 'There is no such callback.')
    if (callback.status !== 'diagnosed') return refuse('notDiagnosed', 'Say what the cause is before a unit is replaced.')
    const old = job.units[command.oldUnitId]
    if (!old || old.removedAt) return noUnit()
    if (job.units[command.newUnitId]) return refuse('unitExists', 'This device is already recorded.')
    if (command.serial === old.serial || context.serialInUse(command.serial))
      return refuse('serialInUse', `Serial ${command.serial} is already recorded somewhere.`, 'Read it again from the new device.')
    if (!command.oldUnitCleared && stillSpeaks(old))
      return refuse(
        'stillSpeaks',
        `The old one runs on a battery: in a drawer it goes on telling ${placeInGroup(job, old)?.primary.name || 'its partner'} what to do.`,
        'Take it out of the household’s app and off its partner, or its battery out, and say which.',
      )
    const locked = touchOrRefuse(context, old.boxId)
    if (locked) return locked
    const code = codeAtWall(job, { serial: command.serial, unitId: command.newUnitId }, old.model, command, context)
    if ('ok' in code) return code
    const { callbackId, oldUnitId, newUnitId, serial, oldUnitGoes, oldUnitCleared } = command
    const { model, serial: oldSerial } = old
    return done(unitReplaced({ callbackId, oldUnitId, newUnitId, serial, oldUnitGoes, oldUnitCleared, code, model, oldSerial }))
  },
})

export const unitReplaced = jobEvent('unitReplaced', {
  rows: true,
  material: true,
  lifts: [withModel, withFitOfModel, withGesturesOfModel, withPairingOfModel, withHandsOfModel, withBatteryOfModel],
  evolve(job, payload: UnitReplaced, event) {
    const old = job.units[payload.oldUnitId]!
    old.removedAt = event.at
    old.removedTo = payload.oldUnitGoes
    job.units[payload.newUnitId] = {
      id: payload.newUnitId,
      boxId: old.boxId,
      gang: old.gang,
      model: payload.model,
      serial: payload.serial,
      code: payload.code,
      installedAt: event.at,
      removedAt: null,
      removedTo: null,
      ...unnamed(),
      name: old.name,
      channelNames: old.channelNames,
      pairing: null,
    }
    if (payload.oldUnitCleared) {
      job.returns ??= {}
      const was = job.returns[serialKey(payload.oldSerial)] ?? waiting(payload.oldUnitGoes, event.at)
      job.returns[serialKey(payload.oldSerial)] = { ...was, cleared: payload.oldUnitCleared, at: event.at, by: event.actor.initials }
    }
    job.callbacks[payload.callbackId]!.replacedBy = payload.newUnitId
    const work = workOn(job, old.boxId)
    // The new unit proves nothing by the old one's tests, nor by the steps that were done on it.
    for (const pointId of work.devices[old.gang]?.pointIds ?? []) delete job.tests[pointId]
    for (const key of Object.keys(work.steps)) if (key.startsWith(`${old.gang}:`)) delete work.steps[key]
  },
  say: (payload) => `replaced ${payload.oldSerial} (${payload.oldUnitGoes}) by ${payload.serial}`,
})
