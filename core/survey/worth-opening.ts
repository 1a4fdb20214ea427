import type { JobState } from '../job/state'
import { boxesOfJob, pointsOfBox } from '../job/progress'
import type { BoxState, SiteState } from '../site'
import { neutralPrior, type HomeKnown } from './neutral-prior'
import { isSeenFromOutside, unknownsOf } from './unknowns'

export interface WorthOpening {
  box: BoxState
  /** Points whose solution an answer may change. */
  points: number
  /** How much is decided by looking, for ordering: 0 nothing. */
  worth: number
}
/** At most so many boxes are opened before the work: common practice, no source. */
const mostWorth = 4

/**
 * The few boxes worth opening before anything is ordered: where a neutral is most in doubt and most points hang on it. Boxes
 * on one circuit and in one room are likely alike: the second of them tells less.
 */
export function worthOpening(job: JobState, site: SiteState, known: HomeKnown): WorthOpening[] {
  const closed = boxesOfJob(job, site).filter(
    (box) => (site.surveys[box.id]?.kind ?? 'wall') === 'wall' && unknownsOf(job, site, box).some((kind) => !isSeenFromOutside(kind)),
  )
  const left = closed.map((box) => {
    const { chance } = neutralPrior(site, known, box.id)
    const points = pointsOfBox(job, box.id).length
    const doubt = site.surveys[box.id]?.neutral ? 0.15 : 4 * chance * (1 - chance)
    return { box, points, worth: Math.max(points, 0.5) * doubt }
  })
  const picked: WorthOpening[] = []
  while (left.length && picked.length < mostWorth) {
    left.sort((a, b) => b.worth - a.worth)
    const best = left.shift()!
    if (best.worth < 0.3) break
    picked.push(best)
    for (const other of left)
      if (other.box.breakerIds.some((id) => best.box.breakerIds.includes(id)) || other.box.roomId === best.box.roomId) other.worth *= 0.5
  }
  return picked
}
