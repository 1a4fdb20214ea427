import { DateTime } from 'luxon'
import type { Roads, Way } from './roads'
import type { RoadMap } from './road-map.schema'
import { clockAt } from '../../units/clock-at'

/** From so many days before a day to so many after it, things that happen daily are known as instants. */
const daysAround = 2

export interface Span {
  from: number
  to: number
}
/** What the clock does to the roads around a day: instants in seconds since 1970, sorted. */
export interface Timetable {
  roads: Roads
  /** By stretch: when a ferry leaves. */
  departures: number[][]
  /** By stretch: when a bridge is open for boats and closed for cars. */
  closures: Span[][]
  /** By kind of road: steps of the share of its speed that can be driven; the last one stays. */
  shares: Map<string, { from: number; share: number }[]>
}

/**
 * @param date A calendar day of the place, 2026-11-28.
 * @param zone Its IANA time zone: a clock that is changed moves ferries and closures with it.
 */
export function timetableOf(roads: Roads, date: string, zone: string): Timetable {
  const first = DateTime.fromISO(date, { zone }).startOf('day')
  const days = Array.from({ length: 2 * daysAround + 1 }, (_, index) => first.plus({ days: index - daysAround }))
  const instant = (day: DateTime, clock: string) => clockAt(day, clock).toSeconds()
  const span = (day: DateTime, { from, to }: { from: string; to: string }) => ({ from: instant(day, from), to: instant(day, to) })
  const sorted = (spans: Span[]) => spans.filter(({ from, to }) => to > from).sort((a, b) => a.from - b.from)
  const { features, traffic } = roads.map
  return {
    roads,
    departures: features.map(({ properties }) =>
      days.flatMap((day) => properties.departures.map((clock) => instant(day, clock))).sort((a, b) => a - b),
    ),
    closures: features.map(({ properties }) => sorted(days.flatMap((day) => properties.closed.map((one) => span(day, one))))),
    shares: new Map([...new Set(traffic.map(({ kind }) => kind))].map((kind) => [kind, stepsOf(traffic, kind, days, span)])),
  }
}

/** Where two rules meet, the slower one counts. */
function stepsOf(
  traffic: RoadMap['traffic'],
  kind: string,
  days: DateTime[],
  span: (day: DateTime, clock: { from: string; to: string }) => Span,
) {
  const rules = traffic
    .filter((rule) => rule.kind === kind)
    .flatMap((rule) => days.filter((day) => rule.weekdays.includes(day.weekday)).map((day) => ({ ...span(day, rule), share: rule.share })))
  const turns = [...new Set(rules.flatMap(({ from, to }) => [from, to]))].sort((a, b) => a - b)
  const at = (second: number) => Math.min(1, ...rules.filter(({ from, to }) => from <= second && second < to).map(({ share }) => share))
  return [{ from: -Infinity, share: 1 }, ...turns.map((from) => ({ from, share: at(from) }))]
}

/** First of a sorted list that is not before an instant, or -1. */
function firstFrom(sorted: number[], instant: number): number {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (sorted[middle]! < instant) low = middle + 1
    else high = middle
  }
  return low < sorted.length ? sorted[low]! : -1
}

/**
 * When the far end of a way is reached by who stands at its beginning. Leaving later never arrives earlier: speeds are
 * steps over time and not over stretches (Ichoua, Gendreau and Potvin, European Journal of Operational Research 144, 2003),
 * and whoever stands before a closed bridge or a ferry waits.
 * @param share Of the way that is driven, from 0 to 1, where it begins or ends at a house.
 * @returns Seconds since 1970; Infinity after the last ferry that is known.
 */
export function arrivalBy(table: Timetable, way: Way, leave: number, share = 1): number {
  const { kind, crossingMinutes } = table.roads.map.features[way.stretch]!.properties
  if (kind === 'ferry') {
    const departure = firstFrom(table.departures[way.stretch]!, leave)
    return departure < 0 ? Infinity : departure + crossingMinutes * 60
  }
  let now = leave
  const closures = table.closures[way.stretch]!
  for (const { from, to } of closures) if (from <= now && now < to) now = to
  const steps = table.shares.get(kind)
  let metres = way.metres * share
  if (!steps) return now + metres / way.metresPerSecond
  for (let index = steps.findLastIndex(({ from }) => from <= now); ; index++) {
    const speed = way.metresPerSecond * steps[index]!.share
    const until = steps[index + 1]?.from ?? Infinity
    if (metres <= (until - now) * speed) return now + metres / speed
    metres -= (until - now) * speed
    now = until
  }
}
