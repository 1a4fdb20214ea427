import type { Position, RoadMap } from './road-map.schema'

/** One direction of a stretch of road. */
export interface Way {
  from: number
  to: number
  metres: number
  metresPerSecond: number
  stretch: number
  /** As the stretch is drawn, or against it. */
  along: boolean
}
export interface Roads {
  map: RoadMap
  junctions: Position[]
  ways: Way[]
  /** By junction: the ways that begin there. */
  out: Way[][]
  /** By stretch: its ways, one or two. */
  of: Way[][]
}

/** Mean radius of the Earth, m (IUGG). */
const earthRadius = 6_371_008.8
const radians = (degrees: number) => (degrees * Math.PI) / 180
/** Great-circle distance in metres (haversine formula). */
export function metresBetween([lon1, lat1]: Position, [lon2, lat2]: Position): number {
  const half = (from: number, to: number) => Math.sin(radians(to - from) / 2) ** 2
  const h = half(lat1, lat2) + Math.cos(radians(lat1)) * Math.cos(radians(lat2)) * half(lon1, lon2)
  return 2 * earthRadius * Math.asin(Math.sqrt(Math.min(1, h)))
}
export const lengthOf = (line: Position[]): number =>
  line.slice(1).reduce((sum, position, index) => sum + metresBetween(line[index]!, position), 0)

/** The graph behind a road map: stretches that end at the same position meet there. */
export function roadsFrom(map: RoadMap): Roads {
  const numbers = new Map<string, number>()
  const junctions: Position[] = []
  const junction = (position: Position) => {
    const key = position.join()
    if (!numbers.has(key)) numbers.set(key, junctions.push(position) - 1)
    return numbers.get(key)!
  }
  const ways = map.features.flatMap(({ properties, geometry: { coordinates } }, stretch): Way[] => {
    const [from, to] = [junction(coordinates[0]!), junction(coordinates.at(-1)!)]
    const way = { from, to, metres: lengthOf(coordinates), metresPerSecond: properties.kmh / 3.6, stretch, along: true }
    return properties.oneWay ? [way] : [way, { ...way, from: to, to: from, along: false }]
  })
  const out: Way[][] = junctions.map(() => [])
  for (const way of ways) out[way.from]!.push(way)
  const of: Way[][] = map.features.map(() => [])
  for (const way of ways) of[way.stretch]!.push(way)
  return { map, junctions, ways, out, of }
}
