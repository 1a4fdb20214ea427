import TinyQueue from 'tinyqueue'
import { lengthOf } from './roads'
import type { Position } from './road-map.schema'
import { waysFrom, waysTo, type Place } from './place'
import { arrivalBy, type Timetable } from './timetable'
import type { Way } from './roads'

/** From the car to the door and back to it: common practice, no source. */
export const doorSeconds = 120
/** On foot from the road to the door, m/s (walking with tools; common practice, no source). */
const walking = 1.2

interface Reached {
  /** Seconds since 1970, by junction. */
  at: Float64Array
  /** The way that led there, and whether it was begun at the door. */
  by: (Way | undefined)[]
}
/** When each junction is reached by who leaves a door then: Dijkstra’s algorithm, which holds since leaving later never arrives earlier. */
function reach(table: Timetable, from: Place, leave: number): Reached {
  const { roads } = table
  const at = new Float64Array(roads.junctions.length).fill(Infinity)
  const by: Reached['by'] = roads.junctions.map(() => undefined)
  const queue = new TinyQueue<{ junction: number; at: number }>([], (a, b) => a.at - b.at)
  const relax = (way: Way, arrival: number) => {
    if (arrival >= at[way.to]!) return
    at[way.to] = arrival
    by[way.to] = way
    queue.push({ junction: way.to, at: arrival })
  }
  const start = leave + from.metres / walking
  for (const { way, share } of waysFrom(roads, from)) relax(way, arrivalBy(table, way, start, share))
  for (let next = queue.pop(); next; next = queue.pop()) {
    if (next.at > at[next.junction]!) continue
    for (const way of roads.out[next.junction]!) relax(way, arrivalBy(table, way, next.at))
  }
  return { at, by }
}

/** Along one stretch without a junction between. */
function straight(table: Timetable, from: Place, to: Place, start: number): number {
  if (from.stretch !== to.stretch) return Infinity
  const ways = waysFrom(table.roads, from).filter(({ way }) => (way.along ? to.along >= from.along : to.along <= from.along))
  return Math.min(Infinity, ...ways.map(({ way }) => arrivalBy(table, way, start, Math.abs(to.along - from.along))))
}

function arrivalAt(table: Timetable, reached: Reached, from: Place, to: Place, leave: number): { at: number; last: Way | null } {
  let best = { at: straight(table, from, to, leave + from.metres / walking), last: null as Way | null }
  for (const way of table.roads.of[to.stretch]!) {
    const share = way.along ? to.along : 1 - to.along
    const at = Number.isFinite(reached.at[way.from]) ? arrivalBy(table, way, reached.at[way.from]!, share) : Infinity
    if (at < best.at) best = { at, last: way }
  }
  return { ...best, at: best.at + to.metres / walking }
}

/**
 * When each of some doors is reached by who leaves another then; driving, waiting and the walk to the door included.
 * @param leave Seconds since 1970.
 * @returns Seconds since 1970, in the order of the places; Infinity where no road leads.
 */
export function arrivalsFrom(table: Timetable, from: Place, to: Place[], leave: number): number[] {
  const reached = reach(table, from, leave)
  return to.map((place) => arrivalAt(table, reached, from, place, leave).at)
}

export interface Leg {
  /** Stretches of one name in a row. */
  name: string
  kind: 'street' | 'road' | 'bridge' | 'ferry'
  metres: number
  /** Seconds since 1970. */
  from: number
  to: number
}
export interface Journey {
  leave: number
  arrive: number
  metres: number
  legs: Leg[]
  line: Position[]
}

/** The part of a stretch that is driven, in the direction of the way. */
function part(table: Timetable, way: Way, from: number, to: number): Position[] {
  const { coordinates } = table.roads.map.features[way.stretch]!.geometry
  const line = way.along ? coordinates : [...coordinates].reverse()
  const whole = lengthOf(line)
  let gone = 0
  const at = (share: number, index: number, side: number): Position => {
    const [a, b] = [line[index]!, line[index + 1]!]
    const within = side ? (share * whole - gone) / side : 0
    return [a[0] + (b[0] - a[0]) * within, a[1] + (b[1] - a[1]) * within]
  }
  const taken: Position[] = []
  for (let index = 0; index < line.length - 1; index++) {
    const side = lengthOf([line[index]!, line[index + 1]!])
    const [begin, end] = [from * whole, to * whole]
    if (gone + side >= begin && !taken.length) taken.push(at(from, index, side))
    if (taken.length && gone + side >= end) return [...taken, at(to, index, side)]
    if (taken.length) taken.push(line[index + 1]!)
    gone += side
  }
  return taken
}

/** The quickest way from door to door for who leaves then, turn by turn. @returns null where no road leads. */
export function journey(table: Timetable, from: Place, to: Place, leave: number): Journey | null {
  const reached = reach(table, from, leave)
  const { at: arrive, last } = arrivalAt(table, reached, from, to, leave)
  if (!Number.isFinite(arrive)) return null
  const start = leave + from.metres / walking
  const driven: { way: Way; from: number; to: number; begin: number; end: number }[] = []
  if (!last) {
    const way = waysFrom(table.roads, from).find(({ way: one }) => (one.along ? to.along >= from.along : to.along <= from.along))!.way
    const share = (place: Place) => (way.along ? place.along : 1 - place.along)
    driven.push({ way, from: start, to: arrive - to.metres / walking, begin: share(from), end: share(to) })
  } else {
    const end = waysTo(table.roads, to).find(({ way }) => way === last)!.share
    driven.unshift({ way: last, from: reached.at[last.from]!, to: arrive - to.metres / walking, begin: 0, end })
    for (let junction = last.from; ;) {
      const way = reached.by[junction]!
      const begun = waysFrom(table.roads, from).find(
        (one) => one.way === way && arrivalBy(table, way, start, one.share) === reached.at[junction],
      )
      driven.unshift({
        way,
        from: begun ? start : reached.at[way.from]!,
        to: reached.at[junction]!,
        begin: begun ? 1 - begun.share : 0,
        end: 1,
      })
      if (begun) break
      junction = way.from
    }
  }
  const legs: Leg[] = []
  const line: Position[] = []
  for (const { way, begin, end, ...times } of driven) {
    const { name, kind } = table.roads.map.features[way.stretch]!.properties
    const metres = way.metres * (end - begin)
    const before = legs.at(-1)
    if (before && before.name === name && before.kind === kind) Object.assign(before, { metres: before.metres + metres, to: times.to })
    else legs.push({ name, kind, metres, ...times })
    line.push(...part(table, way, begin, end).slice(line.length ? 1 : 0))
  }
  return { leave, arrive, metres: legs.reduce((sum, one) => sum + one.metres, 0), legs, line }
}
