import { withFitOfModel, withGesturesOfModel, withModel } from '../lifts'
import { refuse } from '../../stream/envelope'
import { unnamed } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { unitAt } from '../progress'
import { boxOf, noBox } from '../refusals'
import { readCode } from './read-code'
import type { RecordUnit, UnitRecorded } from './record-unit.schema'

export const recordUnit = jobCommand('recordUnit', {
  by: 'crew',
  queues: true,
  decide(job, command: RecordUnit, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const known = job.units[command.unitId]
    const device = job.boxes[box.id]?.devices[command.gang]
    if (!device) return refuse('noDevice', `No device is chosen for gang ${command.gang} of ${box.name}.`, 'Choose it first.')
    if (known && (known.boxId !== box.id || known.gang !== command.gang || known.removedAt))
      return refuse('unitElsewhere', 'This device is recorded in another place.')
    if (!known && unitAt(job, box.id, command.gang))
      return refuse('unitInstalled', 'A device is already recorded here.', 'Correct it, or replace it through a callback.')
    if (known?.serial !== command.serial && context.serialInUse(command.serial))
      return refuse('serialInUse', `Serial ${command.serial} is already recorded somewhere.`, 'Read it again from the device.')
    const code = readCode(job, command.unitId, device.model, command.setupCode, command.setupCodeAgain, context)
    if ('ok' in code) return code
    const { unitId, boxId, gang, serial } = command
    return done(unitRecorded({ unitId, boxId, gang, serial, code, model: device.model }))
  },
  label: (submission) => `serial ${submission.serial}`,
})

export const unitRecorded = jobEvent('unitRecorded', {
  rows: true,
  material: true,
  lifts: [withModel, withFitOfModel, withGesturesOfModel],
  evolve(job, payload: UnitRecorded, event) {
    const known = job.units[payload.unitId]
    const { unitId, boxId, gang, serial, code, model } = payload
    job.units[unitId] = known
      ? { ...known, serial, code }
      : {
          id: unitId,
          boxId,
          gang,
          model,
          serial,
          code,
          installedAt: event.at,
          removedAt: null,
          removedTo: null,
          ...unnamed(),
          pairing: null,
        }
  },
  say: (payload, { box }) =>
    `recorded serial ${payload.serial} at ${box(payload.boxId)}${payload.code.kind === 'none' ? '' : `, setup code …${payload.code.ending} (${payload.code.checked === 'typedTwice' ? 'typed twice' : payload.code.checked === 'checkDigit' ? 'check digit fits' : 'scanned text read'})`}`,
})
