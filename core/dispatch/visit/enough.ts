import { baseMinutes } from '../duration'
import { playVisit, type VisitWork } from './order'

/** What is still to be done when nothing more is opened: tools, covers, a word with the customer. Common practice, no source. */
const leavingMinutes = 10
/** Four of five visits take no longer than so much of what is expected. */
const four = 1.3

export interface Enough {
  /** Boxes of the order that fit. */
  boxes: number
  of: number
  /** Minutes after the beginning at which everything would be done, as expected and on four of five days. */
  ends: number
  four: number
  /** After this no further box is begun; minutes after the beginning. null: everything fits. */
  lastStart: number | null
  handover: boolean
}

/**
 * How much of a visit fits until its crew has to leave: as many boxes of the order as are open, wired, closed, joined and tested
 * on four of five days. What is begun is finished: a box is not left for another day while it is open.
 * @param until Minutes after the beginning.
 */
export function enoughUntil(work: VisitWork, order: readonly number[], until: number): Enough {
  const endOf = (count: number) => playVisit(work, order.slice(0, count)).end
  const all = order.length
  const [ends, safe] = [endOf(all) + baseMinutes.handover, endOf(all) * four + baseMinutes.handover]
  if (safe <= until) return { boxes: all, of: all, ends, four: safe, lastStart: null, handover: true }
  let boxes = 0
  while (boxes < all && endOf(boxes + 1) * four + leavingMinutes <= until) boxes++
  const next = order[boxes]
  // Every box is done, and only the handover does not fit.
  if (next === undefined) return { boxes, of: all, ends, four: safe, lastStart: null, handover: false }
  const { minutes, after } = work.boxes[next]!
  return { boxes, of: all, ends, four: safe, lastStart: Math.max(0, until - leavingMinutes - (minutes + after) * four), handover: false }
}
