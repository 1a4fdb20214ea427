import { Chance } from '../../chance'
import type { Baseline } from './baseline'

/** When somebody is told: so many readings in a row beyond a line, while it is meant to be on. */
export interface Monitor {
  /** Watts under which it does not do its work, and over which it works too hard. */
  low: number
  high: number
  /** So many readings in a row; seconds between them. */
  readings: number
  every: number
  /** Told again after so many seconds, as long as it lasts. */
  repeat: number
}
export interface ChosenMonitor {
  monitor: Monitor
  /** Seconds from the fault to the first word. */
  delay: number
  /** As played: false alarms in one year. */
  falseAYear: number
}

/** The first word comes at the latest so long after the fault, seconds. */
export const latestWord = 15 * 60
const yearSeconds = 365 * 86_400
const hour = 3600
/** A year is played by readings; of a faster meter so many stand for it, and its chance is scaled. */
const mostPlayed = 600_000

/**
 * The lines for at most one false alarm a year with the least delay, by playing years of a healthy motor with its own spread and
 * memory: with more readings in a row the lines may stand nearer to the normal, and the word comes later.
 * @param falls the share of its normal that is a fault: half is a belt that slips or an air way that is shut
 * @param rests so long it stands still by itself, seconds: no fault until half as long again
 * @returns the monitor, or a sentence where none is quick and quiet enough
 */
export function chooseMonitor(baseline: Baseline, falls: number, seed: number, rests = 0): ChosenMonitor | string {
  const { watts, spread, every } = baseline
  const most = Math.max(1, Math.floor(latestWord / every))
  if (every > latestWord) return `A reading every ${Math.round(every / 60)} minutes is too seldom: the first word is due after 15.`
  const rested = Math.ceil((rests * 1.5) / every)
  if (rested >= most)
    return `It stands still by itself for up to ${Math.ceil(rests / 60)} minutes: within 15 nobody can tell whether it rests or has failed. Watch what it does instead (airflow, level, humidity), or how long it runs in a day.`
  const played = healthyYear(baseline, seed)
  const share = played.length / (yearSeconds / every)
  // Of what was played so many false alarms are one a year: with less than a year played, none.
  const allowed = Math.floor(share)
  const fault = watts * falls
  const apart = 2 * spread * Math.sqrt(1 - baseline.memory ** 2)
  const linesOf = (readings: number) => extremes(played, readings, allowed)
  // Longer than a start, and than a rest: those are no faults. With more readings in a row the lines only come nearer, so the fewest are found by halving.
  let [least, enough] = [Math.max(baseline.startReadings, rested) + 1, most]
  while (least < enough) {
    const middle = Math.floor((least + enough) / 2)
    if (linesOf(middle).low - fault >= apart) enough = middle
    else least = middle + 1
  }
  const { low, high } = least <= most ? linesOf(least) : { low: 0, high: 0 }
  if (least <= most && low - fault >= apart) {
    // The line stands midway between what a healthy one never falls to and what a failed one takes.
    const line = (Math.min(low, watts) + fault) / 2
    const over = Math.max(high, watts) + (watts - line)
    const monitor = { low: line, high: over, readings: least, every, repeat: hour }
    return { monitor, delay: least * every, falseAYear: alarmsIn(played, monitor) / share }
  }
  return 'What it takes differs so much from one reading to the next that no line tells a fault from a bad minute. Watch it by airflow or by a gauge.'
}

/** The worst so many windows are looked at: most of them overlap. */
const mostWindows = 2_000

/** Readings of a healthy motor: its normal, its spread, and its memory of the reading before. */
export function healthyYear({ watts, spread, memory, every }: Baseline, seed: number): Float64Array {
  const chance = new Chance(seed)
  const played = new Float64Array(Math.min(mostPlayed, Math.round(yearSeconds / every)))
  const fresh = Math.sqrt(1 - memory ** 2)
  let off = 0
  for (let index = 0; index < played.length; index++) {
    off = memory * off + fresh * chance.normal()
    played[index] = watts + spread * off
  }
  return played
}

/** The line that so many readings in a row were all beyond not more often than allowed, below and above. */
function extremes(played: Float64Array, readings: number, allowed: number): { low: number; high: number } {
  const [lows, highs] = [windowed(played, readings, 1), windowed(played, readings, -1)]
  // Windows that overlap are one alarm.
  const pick = (values: Float64Array, sign: 1 | -1) => {
    const sorted = values.slice().sort()
    const [least, greatest] = [sorted[Math.min(mostWindows, sorted.length) - 1]!, sorted[Math.max(0, sorted.length - mostWindows)]!]
    const far: number[] = []
    values.forEach((value, index) => (sign > 0 ? value <= least : value >= greatest) && far.push(index))
    far.sort((a, b) => sign * (values[a]! - values[b]!))
    const taken: number[] = []
    for (const index of far) {
      if (taken.some((other) => Math.abs(other - index) < readings * 2)) continue
      taken.push(index)
      if (taken.length > allowed) return values[index]!
    }
    return values[far[0]!]!
  }
  return { low: pick(lows, 1), high: pick(highs, -1) }
}
/** Of each window the greatest value (sign 1) or the least (−1). */
function windowed(values: Float64Array, size: number, sign: 1 | -1): Float64Array {
  const count = values.length - size + 1
  const found = new Float64Array(count)
  const queue: number[] = []
  let head = 0
  for (let index = 0; index < values.length; index++) {
    while (queue.length > head && sign * values[queue.at(-1)!]! <= sign * values[index]!) queue.pop()
    queue.push(index)
    if (queue[head]! <= index - size) head++
    if (index >= size - 1) found[index - size + 1] = values[queue[head]!]!
  }
  return found
}

/** How often readings that are healthy would have raised an alarm. */
export function alarmsIn(played: Float64Array, { low, high, readings }: Monitor): number {
  let [below, above, alarms] = [0, 0, 0]
  for (const watts of played) {
    below = watts < low ? below + 1 : 0
    above = watts > high ? above + 1 : 0
    if (below === readings || above === readings) alarms++
  }
  return alarms
}
