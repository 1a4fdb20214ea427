import { withFitOfModel, withGesturesOfModel, withBatteryOfModel, withHandsOfModel, withModel, withPairingOfModel } from '../lifts'
import { inHand, partNeeds } from '../../stock/needs'
import { refuse } from '../../stream/envelope'
import { unnamed } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { partMoved } from '../part/move-part'
import type { PartMoved } from '../part/move-part.schema'
import { unitAt } from '../progress'
import { boxOf, noBox } from '../refusals'
import { codeAtWall } from './read-code'
import type { JobContext } from '../context'
import type { JobState } from '../state'
import type { RecordUnit, UnitRecorded } from './record-unit.schema'

/** A device that was picked for this job and goes into the wall now is used; its unit names the move. */
function usedWith(job: JobState, modelId: string, unitId: string, { stock }: JobContext): PartMoved | null {
  const picked = job.partMoves.findLast(({ as, refId, toId }) => as === 'pick' && refId === modelId && toId !== null)
  const need = picked && partNeeds(job).find(({ articleId }) => articleId === picked.articleId)
  if (!picked || !need || inHand(need) < 1 || job.partMoves.some(({ moveId }) => moveId === unitId)) return null
  const { articleId, name, toId, to, refId } = picked
  // It goes into the wall: it was there, whatever somebody counted on the van meanwhile.
  const there = stock.level(toId!, articleId)
  return {
    moveId: unitId,
    articleId,
    name,
    quantity: 1,
    as: 'use',
    fromId: toId!,
    from: to!,
    toId: null,
    to: null,
    scanned: '',
    inHand: there !== null && there < 1,
    refId,
  }
}

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
    const { unitId, boxId, gang, serial } = command
    const code = codeAtWall(job, { serial, unitId }, device.model, command, context)
    if ('ok' in code) return code
    const used = known ? null : usedWith(job, device.model.id, unitId, context)
    return done(unitRecorded({ unitId, boxId, gang, serial, code, model: device.model }), ...(used ? [partMoved(used)] : []))
  },
  label: (submission) => `serial ${submission.serial}`,
})

export const unitRecorded = jobEvent('unitRecorded', {
  rows: true,
  material: true,
  lifts: [withModel, withFitOfModel, withGesturesOfModel, withPairingOfModel, withHandsOfModel, withBatteryOfModel],
  evolve(job, payload: UnitRecorded, event) {
    const known = job.units[payload.unitId]
    const { unitId, boxId, gang, serial, code, model } = payload
    // What was compared was compared with another one.
    if (known) delete job.codeChecks[unitId]
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
