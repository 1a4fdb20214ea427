import type { FunctionalCheck } from '../../commission'
import { loadWatts } from '../../fit'
import { linkChecks, type ChannelLoad, type LinkCheck } from '../../link/checks'
import type { LightPoint } from '../parts.schema'
import type { JobState, Unit } from '../state'
import { channelOf } from './link-of'

/** All that hangs on the channel of a point: a meter counts the others on it too, and one that does not dim keeps all from it. */
export function loadOn(job: JobState, unit: Unit, point: LightPoint): ChannelLoad {
  const channel = channelOf(job, unit.id, point.id)
  const ids = job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []
  const loads = ids.flatMap((id) => (channelOf(job, unit.id, id) === channel && job.points[id] ? [job.points[id].load] : []))
  return { watts: loads.reduce((sum, load) => sum + loadWatts(load), 0), dimmable: loads.every(({ dimmable }) => dimmable) }
}
/** What the link can try of a point, or has tried before the installer was taken off its device. */
export function linkChecksOf(job: JobState, unit: Unit, point: LightPoint): (FunctionalCheck & Pick<LinkCheck, 'step'>)[] {
  const channel = channelOf(job, unit.id, point.id)
  return channel ? linkChecks(channel, loadOn(job, unit, point)).map((check) => ({ ...check, kind: 'link', location: '' })) : []
}
