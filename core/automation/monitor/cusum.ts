/** A shift that was noticed: at which value, and after which one it had begun. */
export interface Shift {
  at: number
  since: number
  down: boolean
}

/**
 * The tabular cumulative sum of both sides: what a mean has drifted by is added up, less an allowance, until it is too much.
 * Source: Montgomery, Introduction to Statistical Quality Control, chapter on cumulative sum control charts.
 * @param k allowance, and h decision interval, both in units of the values
 * @returns the first shift, or null
 */
export function cusum(values: readonly number[], target: number, k: number, h: number): Shift | null {
  let [high, low, highCount, lowCount] = [0, 0, 0, 0]
  for (let index = 0; index < values.length; index++) {
    high = Math.max(0, values[index]! - (target + k) + high)
    low = Math.max(0, target - k - values[index]! + low)
    highCount = high > 0 ? highCount + 1 : 0
    lowCount = low > 0 ? lowCount + 1 : 0
    if (high > h) return { at: index, since: index - highCount + 1, down: false }
    if (low > h) return { at: index, since: index - lowCount + 1, down: true }
  }
  return null
}
