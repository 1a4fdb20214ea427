import type { LoadTechnology } from '../fit/words'
import type { Place } from '../names/propose'
import type { SiteState } from '../site'
import { channelPoints, currentUnits, pointsOfUnit } from './progress'
import type { JobState } from './state'

/** What people call a thing that is moved. */
const things: Record<LoadTechnology, string> = { led: 'light', filament: 'light', fan: 'fan', motor: 'motor', socket: 'socket' }

/** A device, or one channel of it, by its name. */
export interface NamedPlace extends Place {
  unitId: string
  /** The point whose channel it is; null: the device itself. */
  pointId: string | null
  /** What it switches. */
  pointIds: string[]
}

/** Everything of a job that has a name in the app, or should have one: devices in the wall, and channels of those that have several. */
export function namedIn(job: JobState, site: SiteState): NamedPlace[] {
  return currentUnits(job).flatMap((unit): NamedPlace[] => {
    const box = site.boxes[unit.boxId]
    const points = pointsOfUnit(job, unit)
    const roomOf = (roomId: string | undefined) => site.rooms[roomId ?? '']?.name ?? site.rooms[box?.roomId ?? '']?.name ?? ''
    const channels = channelPoints(job, unit)
    const of = (point: (typeof points)[number] | undefined) => ({
      ...{ room: roomOf(point?.roomId), at: box?.name ?? '', point: point?.name ?? '' },
      thing: point ? things[point.load.technology] : 'switch',
    })
    return [
      // One that only hears other switches, or all of whose channels have names, needs none of its own; nor does one that no app ever sees.
      ...(unit.name || (points.length && !channels.length && unit.model.setupCode !== 'none')
        ? [{ id: unit.id, name: unit.name, unitId: unit.id, pointId: null, pointIds: points.map(({ id }) => id), ...of(points[0]) }]
        : []),
      ...channels.map((point) => ({
        ...{
          id: `${unit.id} ${point.id}`,
          name: unit.channelNames[point.id] ?? '',
          unitId: unit.id,
          pointId: point.id,
          pointIds: [point.id],
        },
        ...of(point),
      })),
    ]
  })
}
