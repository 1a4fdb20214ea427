import { mean, median, variance as varianceOf } from 'simple-statistics'
import type { PowerTrace } from './trace'

/** A stretch in which a device took about the same. */
export interface Stretch {
  from: number
  to: number
  mean: number
  spread: number
}
/** How a motor is when nothing is wrong with it. */
export interface Baseline {
  /** Of the readings while it ran: watts, and their standard deviation. */
  watts: number
  spread: number
  /** How much a reading has of the one before it, 0 to 1. */
  memory: number
  /** Seconds between readings. */
  every: number
  /** The most it took when it started, watts; null: no start is in the trace. */
  start: number | null
  /** So many readings a start lasts: nobody is told of it. */
  startReadings: number
  readings: number
}

/**
 * Where a trace changes: the division into stretches with the least squared error, each further one paid for by the Schwarz
 * criterion. Pruned exact search. Source: Killick, Fearnhead, Eckley, Optimal detection of changepoints with a linear
 * computational cost, JASA 2012.
 * @param noise standard deviation of a reading, watts
 * @returns stretches by index, end excluded
 */
export function stretchesOf(watts: readonly number[], noise = noiseOf(watts)): Stretch[] {
  const count = watts.length
  const [sum, squares] = [new Float64Array(count + 1), new Float64Array(count + 1)]
  for (let index = 0; index < count; index++) {
    sum[index + 1] = sum[index]! + watts[index]!
    squares[index + 1] = squares[index]! + watts[index]! ** 2
  }
  const error = (from: number, to: number) => squares[to]! - squares[from]! - (sum[to]! - sum[from]!) ** 2 / (to - from)
  const price = 6 * noise ** 2 * Math.log(Math.max(2, count))
  const best = new Float64Array(count + 1)
  const last = new Int32Array(count + 1)
  best[0] = -price
  let candidates = [0]
  for (let to = 1; to <= count; to++) {
    best[to] = Infinity
    const costs = candidates.map((from) => best[from]! + error(from, to))
    costs.forEach((cost, index) => {
      if (cost + price < best[to]!) [best[to], last[to]] = [cost + price, candidates[index]!]
    })
    candidates = candidates.filter((_, index) => costs[index]! <= best[to]!)
    candidates.push(to)
  }
  const found: Stretch[] = []
  for (let to = count; to > 0; to = last[to]!) {
    const from = last[to]!
    found.unshift({ from, to, mean: (sum[to]! - sum[from]!) / (to - from), spread: Math.sqrt(Math.max(0, error(from, to) / (to - from))) })
  }
  return found
}

/** By the differences of neighbours while it runs, which no change of level moves much; a flat trace has a little all the same. */
function noiseOf(watts: readonly number[]): number {
  const on = watts.reduce((most, one) => Math.max(most, one), 0) * runningShare
  const jumps = watts.flatMap((value, index) => {
    const before = watts[index - 1]
    return before !== undefined && value > on && before > on ? [Math.abs(value - before)] : []
  })
  return Math.max(0.05, (jumps.length ? median(jumps) : 0) / 0.954)
}

/** Of the highest level that lasted, so much is running. */
const runningShare = 0.3
/** A stretch must last so many readings to be a level, and not a start. */
const lasting = 8

/** How often it stood still and ran again, and for how long at most, seconds. */
export interface Rests {
  count: number
  longest: number
  /** Often enough that it is a thermostat, a float or a humidity switch, and nobody’s hand. */
  byItself: boolean
}
/** So many times nobody switches a motor off and on while its trace is taken. */
const fewestByItself = 3
function restsIn(at: readonly number[], stretches: readonly Stretch[], level: number): Rests {
  const still = (stretch: Stretch) => stretch.mean < level * runningShare
  const lengths: number[] = []
  let since: number | null = null
  stretches.forEach((stretch, index) => {
    if (still(stretch)) {
      // What is still at the beginning of the trace had not run yet.
      if (since === null && index > 0) since = at[stretch.from]!
    } else if (since !== null) {
      lengths.push(at[stretch.from]! - since)
      since = null
    }
  })
  return { count: lengths.length, longest: Math.max(0, ...lengths), byItself: lengths.length >= fewestByItself }
}

/**
 * How a motor is when all is well: the longest running level of a trace and those near it. Its start, and what is switched off, are
 * no part of it.
 * @returns the baseline, or a sentence
 */
export function baselineOf({ at, watts }: PowerTrace): { baseline: Baseline; stretches: Stretch[]; rests: Rests } | string {
  const stretches = stretchesOf(watts)
  const levels = stretches.filter(({ from, to }) => to - from >= lasting)
  const top = Math.max(0, ...levels.map(({ mean }) => mean))
  const running = levels.filter(({ mean }) => mean > top * runningShare)
  if (top < 1 || !running.length) return 'Nothing runs in this trace: it never takes a watt for long.'
  const longest = running.reduce((a, b) => (b.to - b.from > a.to - a.from ? b : a))
  const near = running.filter(({ mean }) => Math.abs(mean - longest.mean) <= Math.max(3 * longest.spread, longest.mean * 0.1))
  const values = near.flatMap(({ from, to }) => watts.slice(from, to))
  const [level, variance] = [mean(values), varianceOf(values)]
  let together = 0
  for (const { from, to } of near)
    for (let index = from + 1; index < to; index++) together += (watts[index]! - level) * (watts[index - 1]! - level)
  const gaps = at.slice(1).map((one, index) => one - at[index]!)
  const starts = stretches.flatMap((stretch, index) => {
    const before = stretches[index - 1]
    const begins = before && before.mean < level * runningShare && stretch.mean >= level * runningShare
    if (!begins) return []
    // Until the first stretch that is near the normal.
    const rest = stretches.slice(index)
    const settled = rest.find((one) => near.includes(one))?.from ?? stretch.to
    return [{ most: Math.max(...watts.slice(stretch.from, Math.max(settled, stretch.from + 1))), lasts: settled - stretch.from }]
  })
  return {
    stretches,
    rests: restsIn(at, stretches, level),
    baseline: {
      ...{ watts: level, spread: Math.max(Math.sqrt(variance), level * 0.005), every: median(gaps), readings: values.length },
      memory: variance > 0 ? Math.min(0.95, Math.max(0, together / (values.length * variance))) : 0,
      start: starts.length ? Math.max(...starts.map(({ most }) => most)) : null,
      startReadings: Math.max(0, ...starts.map(({ lasts }) => lasts)),
    },
  }
}
