import { mean } from 'simple-statistics'
import type { Baseline } from './baseline'
import type { PowerTrace } from './trace'

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

/** A slow change: since when, and what it takes since, watts. */
export interface Drift {
  since: number
  watts: number
}
const quarter = 900
/** A normal is not known better than this share of it. */
const knownTo = 0.01
/**
 * Whether a motor takes something else by now than when all was well: a filter that clogs, a bearing that wears. Means of quarters
 * of an hour in which it ran, with the usual allowance of half a deviation and decision interval of five.
 */
export function driftOf({ at, watts }: PowerTrace, normal: Baseline): Drift | null {
  const means: { at: number; watts: number }[] = []
  for (let index = 0; index < at.length;) {
    const until = at[index]! + quarter
    const ran: number[] = []
    const begins = at[index]!
    for (; index < at.length && at[index]! < until; index++) ran.push(watts[index]!)
    // A quarter with a stop or a start in it says nothing of how it runs.
    if (ran.every((one) => one > normal.watts * 0.3 && one < normal.watts * 2)) means.push({ at: begins, watts: mean(ran) })
  }
  const readings = Math.max(1, quarter / normal.every)
  const deviation = Math.max(normal.watts * knownTo, normal.spread * Math.sqrt((1 + normal.memory) / (1 - normal.memory) / readings))
  const shift = cusum(
    means.map((one) => one.watts),
    normal.watts,
    deviation / 2,
    deviation * 5,
  )
  return shift && { since: means[shift.since]!.at, watts: mean(means.slice(shift.since).map((one) => one.watts)) }
}
