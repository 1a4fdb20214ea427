import type { DeviceModel } from './device-schema'
import { loadWatts, type DeviceRemark, type PointLoad } from './device-model'

/** The neighbours that take fins off a device: devices of the catalogue with a yoke, left and right of it. */
export function neighboursOf(models: Record<number, Pick<DeviceModel, 'gangsWide'> | undefined>, gang: number): 0 | 1 | 2 {
  const beside = [gang - 1, gang + 1].filter((one) => (models[one]?.gangsWide ?? 0) > 0).length
  return beside as 0 | 1 | 2
}
/** What a model carries at its place in the row, W. */
export function wattsInRow(model: DeviceModel, technology: PointLoad['technology'], neighbours: 0 | 1 | 2): number {
  const share = neighbours === 2 ? model.betweenTwo : neighbours === 1 ? model.besideOne : 1
  return Math.floor(model.maxWatts[technology] * share)
}

/** LED drivers draw more current than their watts say: volt-amperes at this power factor where the lamp states none. From memory. */
const plainDriverPowerFactor = 0.5
const lamps = new Set<PointLoad['technology']>(['led', 'filament'])

/** What several points on one channel draw together, against the model at its place in the row. */
export function judgeInRow(model: DeviceModel, loads: PointLoad[], neighbours: 0 | 1 | 2, nominalVolts: number): DeviceRemark[] {
  if (loads.length === 0 || model.kind === 'companion' || model.kind === 'sender') return []
  const remarks: DeviceRemark[] = []
  const share = loads.reduce((sum, load) => sum + loadWatts(load) / (wattsInRow(model, load.technology, neighbours) || Infinity), 0)
  const watts = loads.reduce((sum, load) => sum + loadWatts(load), 0)
  const alone = loads.reduce((sum, load) => sum + loadWatts(load) / (model.maxWatts[load.technology] || Infinity), 0)
  if (share > 1 && alone <= 1)
    remarks.push({
      severity: 'block',
      text: `${watts} W is above what it carries ${neighbours === 2 ? 'between two devices' : 'beside another device'}: ${wattsInRow(model, loads[0]!.technology, neighbours)} W with fins off.`,
    })
  if (model.channelAmps !== null) {
    const amps = loads.reduce(
      (sum, load) =>
        sum +
        loadWatts(load) /
          (nominalVolts *
            (load.technology === 'led'
              ? plainDriverPowerFactor
              : load.technology === 'filament' || load.technology === 'socket'
                ? 1
                : 0.8)),
      0,
    )
    if (amps > model.channelAmps)
      remarks.push({
        severity: 'warn',
        text: `About ${amps.toFixed(1)} A with plain drivers, above the ${model.channelAmps} A of its channel: look at the lamps’ own current.`,
      })
  }
  const dim = loads.filter(({ technology }) => lamps.has(technology))
  if (model.minWatts > 0 && dim.length > 1 && watts < model.minWatts)
    remarks.push({ severity: 'warn', text: `${watts} W in all is below its ${model.minWatts} W: expect a glow when off.` })
  return remarks
}

/** The load of a circuit against its breaker: what runs for three hours and more counts 125 % (NEC 210.20(A)); 230 V: Ib ≤ In. */
export function circuitLoad(
  loads: (PointLoad & { continuous: boolean })[],
  { breakerAmps, nominalVolts }: { breakerAmps: number; nominalVolts: number },
): { amps: number; counted: number; fits: boolean } {
  const amps = (which: typeof loads) => which.reduce((sum, load) => sum + loadWatts(load) / nominalVolts, 0)
  const all = amps(loads)
  const counted = nominalVolts < 160 ? all + 0.25 * amps(loads.filter(({ continuous }) => continuous)) : all
  return { amps: all, counted, fits: counted <= breakerAmps }
}
