import { tagsOn } from '../../site/feeds'
import { breakerName, sentence } from '../../site/names'
import { isEnergised } from '../../site/permissions'
import { refuse } from '../../stream/envelope'
import type { JobContext } from '../context'
import { noBox } from '../refusals'
import { placesOf } from '../progress'
import type { SiteState } from '../../site/state'
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

/** Closed for a moment on an ask to which everybody said clear, and not opened since. */
const isOnForAMoment = (site: SiteState, breakerId: string): boolean =>
  Object.values(site.asks).some(
    ({ kind, status, purpose, breakerId: id }) =>
      kind === 'energise' && status === 'live' && id === breakerId && (purpose === 'wiresOut' || purpose === 'test'),
  )

/** With a box open a test means something only while everybody stands clear; null: it may be stored as seen with the wires out. */
export function againstTestWiresOut(job: JobState, site: SiteState, pointId: string) {
  const point = job.points[pointId]
  if (!point) return refuse('noSuchPoint', 'This point is not part of the job.')
  const boxes = placesOf(point).map(({ boxId }) => site.boxes[boxId])
  if (boxes.some((box) => !box)) return noBox()
  const open = boxes.filter((box) => box!.closure !== 'closed')
  if (!open.length) return refuse('boxesClosed', 'Its boxes are closed: this is a test like any other.', 'Store it as a test.')
  const feedsOf = (box: (typeof boxes)[number]) => box!.breakerIds.flatMap((id) => site.breakers[id] ?? [])
  const unknown = open.find((box) => !feedsOf(box).length)
  if (unknown) return refuse('feedUnknown', `Nobody knows what feeds ${unknown.name}.`, 'Find its {breaker} first.')
  // A mate may work behind another feed of a box that is closed.
  const dark = boxes.find((box) => !feedsOf(box).some((breaker) => isEnergised(site, breaker)))
  const off = [...open, ...(dark ? [dark] : [])].flatMap(feedsOf).find((breaker) => !isEnergised(site, breaker))
  if (off) return refuse('powerOff', `${sentence(breakerName(site, off))} is off: nothing can be tested.`, 'Ask for power for a moment.')
  const unasked = open.flatMap(feedsOf).find(({ id }) => !isOnForAMoment(site, id))
  return unasked
    ? refuse(
        'notForAMoment',
        `${sentence(breakerName(site, unasked))} is on with a box open, and nobody was asked to stand clear for a test.`,
        'Open it, then ask for power for a moment, to test.',
      )
    : null
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
