import { mainModel, groupOf, pointsInOrder, boxesOfJob, type JobState } from '../../job'
import { mainBreakers, plateIsOff, type BoxState, type SiteState } from '../../site'
import { baseMinutes, minutesOf } from '../duration'
import { gangsToDo, workAtBox } from '../work'
import type { VisitBox, VisitWork } from './order'

/** Boxes of a job at which something is still to be done, in walk order. */
export function boxesToDo(job: JobState, site: SiteState): BoxState[] {
  const todo = (box: BoxState) => gangsToDo(job, box).length > 0 || plateIsOff(box)
  return site.roomOrder.flatMap((roomId) => boxesOfJob(job, site).filter((box) => box.roomId === roomId && todo(box)))
}

/** Circuits that have to be off for a box: those that feed it; of a box whose feed nobody knows the mains. */
export const circuitsOf = (site: SiteState, box: BoxState): string[] =>
  box.breakerIds.length ? box.breakerIds : mainBreakers(site).map(({ id }) => id)

/**
 * What a visit has to do, box by box.
 * @param options.people Who opens boxes.
 * @param options.pace How this company’s work goes against the usual minutes.
 * @param options.darkAt Minutes after the beginning.
 */
export function workOfVisit(
  job: JobState,
  site: SiteState,
  { people, pace = 1, darkAt = null }: { people: number; pace?: number; darkAt?: number | null },
): VisitWork {
  const boxes = boxesToDo(job, site)
  const here = new Set(boxes.map(({ id }) => id))
  const points = pointsInOrder(job)
  return {
    people,
    darkAt,
    boxes: boxes.map((box): VisitBox => {
      const { pairing = 0, ...work } = workAtBox(job, site, box)
      const circuits = circuitsOf(site, box)
      const lights = points.filter(({ roomId }) => roomId === box.roomId)
      const feedOf = (boxId: string) => (site.boxes[boxId] ? circuitsOf(site, site.boxes[boxId]) : [])
      const lost =
        lights.length > 0 && lights.every((point) => point.controls.some(({ boxId }) => feedOf(boxId).some((id) => circuits.includes(id))))
      const own = points.filter((point) => point.controls.some(({ boxId }) => boxId === box.id) && mainModel(job, point)).length
      return {
        id: box.id,
        minutes: minutesOf(work) * pace,
        breakers: circuits,
        mates: groupOf(job, box.id).filter((id) => here.has(id)),
        after: (pairing * baseMinutes.pairing + own * testMinutes) * pace,
        dark: lost,
        roomId: box.roomId,
      }
    }),
  }
}
/** From every place, in every position. Common practice, no source. */
const testMinutes = 2
