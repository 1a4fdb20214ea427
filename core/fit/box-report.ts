import type { BoxState, Conductor } from '../site'
import { awgSizes, isEarthMarked, largerAwg, type AwgSize, type SchemeId } from '../units'
import { boxFill, type BoxFill, type FillConductor, type NecEdition } from './box-fill'
import type { BoxSurvey } from '../site/state'
import { connectorsIn3 } from './connectors'
import { depthFit, type DepthFit } from './depth'
import type { DeviceModel } from './device-schema'

export type BoxReport =
  | { kind: 'volume'; fill: BoxFill; assumed: string[] }
  | { kind: 'depth'; fit: DepthFit; note: string }
  | { kind: 'unknown'; missing: string }

function gaugeOf(conductor: Conductor, fallback: AwgSize): AwgSize {
  return (awgSizes as readonly number[]).includes(conductor.gaugeAwg ?? 0) ? (conductor.gaugeAwg as AwgSize) : fallback
}

/** What a box holds besides its conductors, and how much it has room for. */
interface BoxSize {
  volumeIn3: number
  internalClamps: number
  supportFittings: number
  /** Room that the connectors take, in³; only the real room tells of it. */
  connectorsIn3?: number
}
/** Box fill with these devices in it: a yoke counts by the largest conductor that ends in the box, a module has none. */
export function fillOfBox(
  { volumeIn3, internalClamps, supportFittings, connectorsIn3: connectorBodiesIn3 = 0 }: BoxSize,
  conductors: FillConductor[],
  devices: Pick<DeviceModel, 'gangsWide' | 'bodyIn3'>[],
  edition: NecEdition,
): BoxFill {
  const insulated = conductors
    .filter((conductor) => !conductor.ground && conductor.passage === 'ends')
    .map((conductor) => conductor.gaugeAwg)
  const onDevice = insulated.length ? insulated.reduce(largerAwg) : 12
  const bodies = (all: typeof devices) => all.reduce((total, { bodyIn3 }) => total + bodyIn3, 0)
  return boxFill({
    volumeIn3,
    edition,
    conductors,
    internalClamps,
    supportFittings,
    terminalBlocks: [],
    yokes: devices.filter(({ gangsWide }) => gangsWide > 0).map(({ gangsWide }) => ({ gangsWide, gaugeAwg: onDevice })),
    deviceBodiesIn3: bodies(devices),
    connectorBodiesIn3,
    yokelessModulesIn3: bodies(devices.filter(({ gangsWide }) => gangsWide === 0)),
  })
}

/** The fit of a box as recorded, with the devices chosen for it. A gauge not recorded is assumed 12 AWG, the safe side of the two usual ones. */
export function reportBox(
  box: BoxState,
  devices: DeviceModel[],
  schemeId: SchemeId,
  edition: NecEdition,
  survey: BoxSurvey = {},
  bodies?: Parameters<typeof connectorsIn3>[1],
): BoxReport {
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
  const fill = fillOfBox(
    {
      ...box,
      volumeIn3: box.volumeIn3,
      supportFittings: survey.supportFittings ?? 0,
      connectorsIn3: connectorsIn3(survey.splices ?? [], bodies),
    },
    conductors,
    devices,
    edition,
  )
  return { kind: 'volume', fill, assumed }
}
