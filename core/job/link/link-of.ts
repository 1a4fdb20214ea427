import type { LinkedChannel } from '../../link/device-link'
import type { JobState } from '../state'
import type { LinkState } from './state'

const empty = (): LinkState => ({ units: {}, faults: {}, left: {} })
const none = empty()
export const linkOf = (job: JobState): Readonly<LinkState> => job.link ?? none
export const openLink = (job: JobState): LinkState => (job.link ??= empty())
/** Devices in the wall or taken out that still carry the installer. */
export const linkedUnits = (job: JobState): string[] => Object.keys(linkOf(job).units)

/** The channel of a device that carries a point; null: it was never linked, or its channels are not those of its points. */
export function channelOf(job: JobState, unitId: string, pointId: string): LinkedChannel | null {
  const { units, left } = linkOf(job)
  const linked = units[unitId] ?? left[unitId]
  const unit = job.units[unitId]
  if (!linked || !unit || unit.removedAt) return null
  const points = job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []
  // Two channels are in the order of their points, as the terminals are; one channel carries them all.
  return linked.channels[linked.channels.length > 1 ? points.indexOf(pointId) : 0] ?? null
}
