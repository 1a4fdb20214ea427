import type { LightPoint } from '../parts.schema'
import { placesOf, unitAt } from '../progress'
import type { JobState } from '../state'

/** The place at which a device of this point is in already: that does not change by writing. */
export const installedAt = (job: JobState, point: LightPoint) =>
  placesOf(point).find(({ boxId, gang }) => unitAt(job, boxId, gang) && job.boxes[boxId]?.devices[gang]?.pointIds.includes(point.id))

/** A wiring that was laid for other places was verified for them: it is laid anew. */
export function forgetWiringAt(job: JobState, controls: LightPoint['controls']): void {
  for (const { boxId } of controls) {
    const wiring = job.boxes[boxId]?.wiring
    if (wiring) Object.assign(wiring, { plan: null, planned: undefined, observed: [] })
  }
}
