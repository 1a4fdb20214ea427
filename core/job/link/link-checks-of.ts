import type { FunctionalCheck } from '../../commission'
import { linkChecks, type LinkCheck } from '../../link/checks'
import type { LightPoint } from '../parts.schema'
import type { JobState, Unit } from '../state'
import { channelOf } from './link-of'

/** What the link can try of a point, or has tried before the installer was taken off its device. */
export function linkChecksOf(job: JobState, unit: Unit, point: LightPoint): (FunctionalCheck & Pick<LinkCheck, 'step'>)[] {
  const channel = channelOf(job, unit.id, point.id)
  return channel ? linkChecks(channel, point.load).map((check) => ({ ...check, kind: 'link', location: '' })) : []
}
