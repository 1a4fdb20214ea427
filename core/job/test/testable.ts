import { tagsOn } from '../../site/feeds'
import { breakerName, sentence } from '../../site/names'
import { isEnergised } from '../../site/permissions'
import { refuse } from '../../stream/envelope'
import type { JobContext } from '../context'
import { noBox } from '../refusals'
import { placesOf } from '../progress'
import type { JobState } from '../state'

/** A functional test means something only with the boxes closed up and the power on. */
export function pointIsTestable(job: JobState, context: Pick<JobContext, 'site'>, pointId: string) {
  const point = job.points[pointId]
  if (!point) return refuse('noSuchPoint', 'This point is not part of the job.')
  for (const control of placesOf(point)) {
    const no = boxIsTestable(context, control.boxId)
    if (no) return no
  }
  return null
}

/** Closed up, no tags left, the power on. */
export function boxIsTestable(context: Pick<JobContext, 'site'>, boxId: string) {
  const box = context.site.boxes[boxId]
  if (!box) return noBox()
  if (box.closure !== 'closed')
    return refuse('boxOpen', `${box.name} is still open.`, 'Close the box, take the tags off, close the {breaker}; then test.')
  for (const breaker of box.breakerIds.flatMap((id) => context.site.breakers[id] ?? [])) {
    if (tagsOn(context.site, breaker.id).length)
      return refuse(
        'tagHangs',
        `A tag hangs on ${breakerName(context.site, breaker)}.`,
        'Its owner takes it off, then the {breaker} is closed.',
      )
    if (!isEnergised(context.site, breaker))
      return refuse('powerOff', `${sentence(breakerName(context.site, breaker))} is off: nothing can be tested.`, 'Ask to close it.')
  }
  return null
}
