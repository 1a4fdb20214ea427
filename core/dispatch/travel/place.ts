import { lineString } from '@turf/helpers'
import { nearestPointOnLine } from '@turf/nearest-point-on-line'
import { lengthOf, metresBetween, type Roads, type Way } from './roads'
import type { Position } from './road-map.schema'

/** A home on the roads: where its door meets the nearest stretch. */
export interface Place {
  stretch: number
  /** Of the stretch’s length, from its beginning. */
  along: number
  /** Metres from the door to the stretch. */
  metres: number
  at: Position
}
/** Farther from every road a place is not one of this map. */
export const farthestMetres = 2_000

/**
 * The nearest place on a street, road or bridge.
 * @returns null where no road comes within 2 km.
 */
export function placeAt(roads: Roads, position: Position): Place | null {
  let best: Place | null = null
  for (const [stretch, { properties, geometry }] of roads.map.features.entries()) {
    if (properties.kind === 'ferry' || properties.kind === 'bridge') continue
    // No point of it can be nearer than its nearest corner less its longest side.
    const sides = geometry.coordinates.slice(1).map((corner, index) => metresBetween(geometry.coordinates[index]!, corner))
    const nearest = Math.min(...geometry.coordinates.map((corner) => metresBetween(corner, position)))
    if (nearest - Math.max(...sides) > Math.min(best?.metres ?? Infinity, farthestMetres)) continue
    const point = nearestPointOnLine(lineString(geometry.coordinates), position, { units: 'meters' })
    const metres = point.properties.pointDistance ?? point.properties.dist ?? Infinity
    if (metres > farthestMetres || metres >= (best?.metres ?? Infinity)) continue
    const whole = lengthOf(geometry.coordinates)
    const along = Math.min(1, Math.max(0, (point.properties.lineDistance ?? point.properties.location ?? 0) / whole))
    best = { stretch, along, metres, at: point.geometry.coordinates as Position }
  }
  return best
}

/** The ways that lead from a door, with the share of each that is driven. */
export const waysFrom = (roads: Roads, place: Place): { way: Way; share: number }[] =>
  roads.ways.filter(({ stretch }) => stretch === place.stretch).map((way) => ({ way, share: way.along ? 1 - place.along : place.along }))
/** The ways that lead to a door. */
export const waysTo = (roads: Roads, place: Place): { way: Way; share: number }[] =>
  waysFrom(roads, place).map(({ way, share }) => ({ way, share: 1 - share }))
