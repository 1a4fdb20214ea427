import { counted } from '../../units/counted'
import { withModel } from '../lifts'
import { judgeDevice, judgeTogether } from '../../fit/device-model'
import type { DeviceModel } from '../../fit/device-schema'
import { refuse } from '../../stream/envelope'
import { wiringOf } from '../box-wiring'
import { workOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { rolesIn, unitAt } from '../progress'
import { boxOf, noBox } from '../refusals'
import type { JobState } from '../state'
import type { ChooseDevice, DeviceChosen } from './choose-device.schema'

/**
 * A wired companion speaks to a device over a conductor, and that has to have an input for it.
 * @returns the device of these points that has none, be it the one that is chosen now or one chosen before; null: all is well
 */
function partnerThatHearsNothing(job: JobState, boxId: string, model: DeviceModel, pointIds: string[]): DeviceModel | null {
  const isWired = (one: DeviceModel) => one.kind === 'companion' && one.terminals.includes('sense')
  const isDeaf = (one: DeviceModel) =>
    one.kind !== 'companion' &&
    !one.terminals.includes('sense') &&
    !(one.terminals.includes('traveler1') && !one.terminals.includes('traveler2'))
  const elsewhere = pointIds.flatMap((id) =>
    (job.points[id]?.controls ?? [])
      .filter((control) => control.boxId !== boxId)
      .flatMap((control) => job.boxes[control.boxId]?.devices[control.gang]?.model ?? []),
  )
  if (isWired(model)) return elsewhere.find(isDeaf) ?? null
  return isDeaf(model) && elsewhere.some(isWired) ? model : null
}

export const chooseDevice = jobCommand('chooseDevice', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: ChooseDevice, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (command.gang > box.gangs) return refuse('noSuchGang', `${box.name} has ${counted(box.gangs, 'gang')}.`)
    const model = context.model(command.modelId)
    if (!model) return refuse('noSuchModel', 'This model is not in the catalogue.')
    if (unitAt(job, box.id, command.gang))
      return refuse('unitInstalled', 'A device is already recorded here.', 'Replace it through a callback.')
    const roles = Object.values(rolesIn(job, box.id))
    for (const pointId of command.pointIds) {
      const point = job.points[pointId]
      if (!point?.controls.some((control) => control.boxId === box.id && control.gang === command.gang))
        return refuse('noSuchPoint', `That point is not switched from gang ${command.gang} of ${box.name}.`)
      const blocks = judgeDevice(model, point.load, {
        schemeId: context.site.schemeId,
        controlLocations: point.controls.length,
        neutralEstablished: roles.length ? roles.includes('neutral') : null,
      }).filter((remark) => remark.severity === 'block')
      if (blocks.length)
        return refuse(
          'deviceUnfit',
          blocks.map((remark) => remark.text),
          'Choose another model.',
        )
    }
    const [together] = judgeTogether(
      model,
      command.pointIds.flatMap((id) => job.points[id]?.load ?? []),
    )
    if (together) return refuse('deviceUnfit', together.text, 'Choose a model that carries all of them, or one device for each.')
    const deaf = partnerThatHearsNothing(job, box.id, model, command.pointIds)
    if (deaf)
      return refuse(
        'deviceUnfit',
        `${deaf.name} has no switch input: a wired companion has no input to signal.`,
        'Choose a device with an input for it, or a companion without wires.',
      )
    // A wiring that was laid is judged anew with the device that now goes there.
    const { plan } = wiringOf(job, box.id)
    const work = job.boxes[box.id]
    const devices = { ...work?.devices, [command.gang]: { model, pointIds: command.pointIds } }
    const after = { ...job, boxes: { ...job.boxes, [box.id]: { ...work!, devices } } }
    const against = plan && context.judgePlan ? context.judgePlan(after, context.site, box.id, plan).against : null
    return done(deviceChosen({ ...command, model, against }))
  },
  label: () => 'device chosen',
})

export const deviceChosen = jobEvent('deviceChosen', {
  rows: true,
  material: true,
  lifts: [(payload) => withModel({ against: null, ...payload })],
  evolve(job, payload: DeviceChosen) {
    const work = workOn(job, payload.boxId)
    if (work.devices[payload.gang]?.model.id !== payload.model.id)
      work.devices[payload.gang] = { model: payload.model, pointIds: payload.pointIds }
    if (work.oldStays) work.oldStays = work.oldStays.filter((gang) => gang !== payload.gang)
    if (payload.against && work.wiring?.planned) work.wiring.planned.against = payload.against
  },
  say: (payload, { box }) => `chose ${payload.model.maker} ${payload.model.name} for ${box(payload.boxId)}, gang ${payload.gang}`,
})
