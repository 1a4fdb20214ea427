import { counted } from '../../units/counted'
import { withFitOfModel, withGesturesOfModel, withBatteryOfModel, withHandsOfModel, withModel, withPairingOfModel } from '../lifts'
import { refuse } from '../../stream/envelope'
import { wiringOf } from '../box-wiring'
import { workOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { judgeAtGang } from '../device-fit'
import type { LightPoint } from '../parts.schema'
import { placesOf, pointsOfBox, setTogether, unitAt } from '../progress'
import { boxOf, noBox } from '../refusals'
import type { ChooseDevice, DeviceChosen } from './choose-device.schema'

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
    const points: LightPoint[] = []
    for (const pointId of command.pointIds) {
      const point = job.points[pointId]
      if (!point || !placesOf(point).some((place) => place.boxId === box.id && place.gang === command.gang))
        return refuse('noSuchPoint', `That point is not switched from gang ${command.gang} of ${box.name}.`)
      points.push(point)
    }
    // A companion carries no point, and shares the light of the others at its gang all the same.
    const shared = points.length ? points : pointsOfBox(job, box.id, command.gang)
    const blocks = judgeAtGang(job, context.site, box, command.gang, model, model.kind === 'companion' ? shared : points).filter(
      ({ severity }) => severity === 'block',
    )
    if (blocks.length)
      return refuse(
        'deviceUnfit',
        blocks.map((remark) => remark.text),
        'Choose another model.',
      )
    // A wiring that was laid is judged anew with the device that now goes there.
    const { plan } = wiringOf(job, box.id)
    const work = job.boxes[box.id]
    const devices = { ...work?.devices, [command.gang]: { model, pointIds: command.pointIds } }
    const after = { ...job, boxes: { ...job.boxes, [box.id]: { ...work!, devices } } }
    const judged = plan && context.judgePlan ? context.judgePlan(after, context.site, box.id, plan) : null
    return done(deviceChosen({ ...command, model, against: judged?.against ?? null, together: judged?.together ?? null }))
  },
  label: () => 'device chosen',
})

export const deviceChosen = jobEvent('deviceChosen', {
  rows: true,
  material: true,
  lifts: [
    (payload) => withModel({ against: null, ...payload }),
    withFitOfModel,
    (payload) => withGesturesOfModel({ together: null, ...payload }),
    withPairingOfModel,
    withHandsOfModel,
    withBatteryOfModel,
  ],
  evolve(job, payload: DeviceChosen) {
    const work = workOn(job, payload.boxId)
    if (work.devices[payload.gang]?.model.id !== payload.model.id)
      work.devices[payload.gang] = { model: payload.model, pointIds: payload.pointIds }
    if (work.oldStays) work.oldStays = work.oldStays.filter((gang) => gang !== payload.gang)
    if (payload.against && work.wiring?.planned) work.wiring.planned.against = payload.against
    if (payload.together) setTogether(job, payload.boxId, payload.together)
  },
  say: (payload, { box }) => `chose ${payload.model.maker} ${payload.model.name} for ${box(payload.boxId)}, gang ${payload.gang}`,
})
