import { hasChannels } from '../../fit/device-model'
import { loadWatts, type DeviceModel } from '../../fit'
import type { LinkedKind, Surroundings } from '../../link'
import type { SiteState } from '../../site/state'
import { windowOf } from '../pairing/case-of'
import { joiningOf, pairingOf } from '../pairing/pairing-of'
import type { JobState, Unit } from '../state'

const kindOf = (model: DeviceModel): LinkedKind =>
  model.kind === 'dimmer'
    ? 'dimmer'
    : model.kind === 'fanControl'
      ? 'fan'
      : hasChannels(model)
        ? 'twoChannel'
        : model.metering
          ? 'meteringRelay'
          : 'switch'

/** How a stand-in finds its home, by the record. @param now ms */
export function surroundingsOf(job: JobState, site: SiteState, unit: Unit, now: number): Surroundings {
  const window = windowOf(job, site, unit, now).is
  const tried = joiningOf(job, unit.id).history.flatMap((entry) => ('tried' in entry ? [entry.tried] : []))
  const points = job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []
  return {
    powered: window !== 'off',
    windowOpen: window !== 'over' && window !== 'off',
    narrowBand: pairingOf(job).band !== null || tried.includes('band'),
    reset: tried.includes('reset'),
    kind: kindOf(unit.model),
    serial: unit.serial,
    watts: points.flatMap((id) => (job.points[id] ? [loadWatts(job.points[id].load)] : [])),
  }
}
