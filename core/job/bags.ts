import type { BoxState, SiteState } from '../site'
import type { DeviceModel } from '../fit/device-schema'
import { plateOf, rowIsKnown } from './device-fit'
import { boxesOfJob, unitAt } from './progress'
import { unitInBag } from './shop/prepared'
import type { JobState, PreparedUnit } from './state'
import { wiringOf } from './box-wiring'

export interface BagDevice {
  gang: number
  model: DeviceModel
  points: string[]
  /** What lies ready for it; null: nothing yet, or of another model than is chosen now. */
  unit: PreparedUnit | null
}
/** What goes into the bag of one box. */
export interface Bag {
  box: BoxState
  room: string
  devices: BagDevice[]
  /** Of the final row; null: not known, or none fits. */
  plate: string | null
  /** Splices of its plan, by how many conductors each joins; empty: nobody laid it yet. */
  splices: { conductors: number; count: number }[]
}

/** What lies ready, or has to, for every box of a job that waits for a device, in the order of the boxes. */
export function bagsOf(job: JobState, site: SiteState): Bag[] {
  return boxesOfJob(job, site).flatMap((box): Bag[] => {
    const devices = Object.entries(job.boxes[box.id]?.devices ?? {}).flatMap(([at, { model, pointIds }]): BagDevice[] => {
      const gang = Number(at)
      if (unitAt(job, box.id, gang)) return []
      const ready = unitInBag(job, box.id, gang)
      return [
        {
          gang,
          model,
          points: pointIds.flatMap((id) => job.points[id]?.name ?? []),
          unit: ready?.model.id === model.id ? ready : null,
        },
      ]
    })
    if (!devices.length) return []
    const sizes = (wiringOf(job, box.id).plan?.splices ?? []).map(({ letters }) => letters.length)
    return [
      {
        box,
        room: site.rooms[box.roomId]?.name ?? '',
        devices,
        plate: rowIsKnown(job, site, box) ? plateOf(job, site, box).plate : null,
        splices: [...new Set(sizes)]
          .sort((a, b) => a - b)
          .map((conductors) => ({ conductors, count: sizes.filter((size) => size === conductors).length })),
      },
    ]
  })
}
