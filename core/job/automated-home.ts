import { usualBehaviour, usualHabits, type AutomatedHome, type HomeDevice } from '../automation/home'
import { loadWatts } from '../fit'
import type { SiteState } from '../site'
import { automationOf } from './automation/automation-of'
import { namedIn } from './named'
import { pairingOf } from './pairing/pairing-of'
import type { JobState } from './state'

/**
 * A home as a year is played with it: what is in the wall, each by the point it switches, so that a device that is replaced does
 * what the one before it did.
 * @param where its zone, and longitude and latitude where they are known
 */
export function automatedHome(job: JobState, site: SiteState, where: Pick<AutomatedHome, 'zone' | 'position'>): AutomatedHome {
  const { routines, behaviours, sensors, habits } = automationOf(job)
  const devices = namedIn(job, site).flatMap(({ name, room, thing, pointIds }): HomeDevice[] => {
    const points = pointIds.flatMap((id) => job.points[id] ?? [])
    const [first] = points
    if (!first) return []
    const mustRun = points.some((point) => point.mustRun)
    return [
      {
        id: first.id,
        name: name || first.name,
        room,
        roomId: first.roomId || null,
        light: thing === 'light',
        watts: points.reduce((sum, point) => sum + loadWatts(point.load), 0),
        behaviour: behaviours[first.id] ?? { ...usualBehaviour, mustRun },
      },
    ]
  })
  return {
    ...where,
    rooms: Object.values(site.rooms).map(({ id, name }) => ({ id, name })),
    devices,
    sensors: Object.values(sensors),
    routines: Object.values(routines).map(({ routine }) => routine),
    habits: habits ?? { ...usualHabits, declined: pairingOf(job).accounts?.declined ?? [] },
  }
}
