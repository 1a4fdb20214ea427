import { cusum } from '../automation/monitor/cusum'

export interface Month {
  /** 2026-11 */
  month: string
  handedOver: number
  callbacks: number
}
/** Months before anything is said of a change, and callbacks in them. */
const [fewestMonths, fewestCallbacks] = [6, 12]
/**
 * Since when there are more callbacks than there were: the cumulative sum of months against the first half of them, by twice their
 * square roots, whose spread is one whatever their number. Allowance and limit as in the textbook: a half, and five.
 */
export function risenSince(months: readonly Month[]): string | null {
  // The month that runs is not over, and the company may be younger than the picture.
  const over = months.slice(0, -1)
  const from = over.findIndex(({ handedOver, callbacks }) => handedOver + callbacks > 0)
  const seen = from < 0 ? [] : over.slice(from)
  if (seen.length < fewestMonths || seen.reduce((sum, { callbacks }) => sum + callbacks, 0) < fewestCallbacks) return null
  const roots = seen.map(({ callbacks }) => 2 * Math.sqrt(callbacks + 3 / 8))
  const before = roots.slice(0, Math.ceil(seen.length / 2))
  const shift = cusum(roots, before.reduce((sum, one) => sum + one, 0) / before.length, 0.5, 5)
  return shift && !shift.down ? seen[shift.since]!.month : null
}
