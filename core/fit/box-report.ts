import type { BoxState, Conductor } from '../site'
import { awgSizes, isEarthMarked, largerAwg, type AwgSize, type SchemeId } from '../units'
import { boxFill, type BoxFill, type NecEdition } from './box-fill'
import { depthFit, type DepthFit } from './depth'
import type { DeviceModel } from './device-schema'

export type BoxReport =
  | { kind: 'volume'; fill: BoxFill; assumed: string[] }
  | { kind: 'depth'; fit: DepthFit; note: string }
  | { kind: 'unknown'; missing: string }

function gaugeOf(conductor: Conductor, fallback: AwgSize): AwgSize {
  return (awgSizes as readonly number[]).includes(conductor.gaugeAwg ?? 0) ? (conductor.gaugeAwg as AwgSize) : fallback
}

/** The fit of a box as recorded, with the devices chosen for it. A gauge not recorded is assumed 12 AWG, the safe side of the two usual ones. */
export function reportBox(box: BoxState, devices: DeviceModel[], schemeId: SchemeId, edition: NecEdition, supportFittings = 0): BoxReport {
  if (schemeId === 'iec230') {
    if (box.depthMm === null) return { kind: 'unknown', missing: 'Measure the depth of the back box.' }
    return {
      kind: 'depth',
      fit: depthFit(
        box.depthMm,
        devices.map((device) => device.depthMm),
      ),
      note: 'This scheme has no fill table; depth is compared, and the maker’s instructions decide.',
    }
  }
  if (box.volumeIn3 === null) return { kind: 'unknown', missing: 'Read the volume marked in the box, or pick it from the table.' }
  if (box.conductors.length === 0) return { kind: 'unknown', missing: 'Record the conductors to see the fill.' }
  const assumed = box.conductors.filter((conductor) => conductor.gaugeAwg === null).map((conductor) => conductor.letter)
  const conductors = box.conductors.map((conductor) => ({
    gaugeAwg: gaugeOf(conductor, 12),
    ground: isEarthMarked(conductor.colour),
    passage: conductor.course,
  }))
  const insulated = conductors
    .filter((conductor) => !conductor.ground && conductor.passage === 'ends')
    .map((conductor) => conductor.gaugeAwg)
  const onDevice = insulated.length ? insulated.reduce(largerAwg) : 12
  const yokes = devices.filter((device) => device.gangsWide > 0)
  const modules = devices.filter((device) => device.gangsWide === 0)
  const sum = (models: DeviceModel[]) => models.reduce((total, model) => total + model.bodyIn3, 0)
  const fill = boxFill({
    volumeIn3: box.volumeIn3,
    edition,
    conductors,
    internalClamps: box.internalClamps,
    supportFittings,
    terminalBlocks: [],
    yokes: yokes.map((device) => ({ gangsWide: device.gangsWide, gaugeAwg: onDevice })),
    deviceBodiesIn3: sum(devices),
    yokelessModulesIn3: sum(modules),
  })
  return { kind: 'volume', fill, assumed }
}
