import { closeEverything, type AfterTrips, type HomeSolution, type Light } from '../home'
import type { Fault } from '../model'
import type { PlannedHome } from './plan'

/** What one sees: each light, after any breaker that had to has tripped. */
export interface Seen {
  lights: Record<string, Light>
  /** Circuits whose breaker tripped. */
  trips: string[]
}
/** What somebody saw in one position. */
export interface Observation extends Seen {
  positions: Record<string, number>
}
/** What would be seen in one position. */
export interface PredictedSeen extends Observation {
  /** Or else: of several breakers with a reason to trip another one was quicker. */
  orElse: Seen[]
}
export const endsOf = (row: PredictedSeen): Seen[] => [row, ...row.orElse]

/** What would be seen with these faults in each position. An unsettled state is seen as flicker. */
export function predictSeen(home: PlannedHome, faults: Fault[], rows: Record<string, number>[]): PredictedSeen[] {
  const wiring = { ...home.wiring, faults }
  return rows.map((positions) => ({ positions, ...seenIn(home, closeEverything(wiring, positions)) }))
}
export function seenIn(home: PlannedHome, ends: AfterTrips[]): Omit<PredictedSeen, 'positions'> {
  const [first, ...orElse] = ends.map((end): Seen => ({ lights: lightsIn(home, end.home), trips: end.trips }))
  return { ...first!, orElse }
}
const lightsIn = (home: PlannedHome, stands: HomeSolution | null): Seen['lights'] =>
  Object.fromEntries(home.outside.lights.map(({ id }) => [id, stands?.light(id) ?? 'glow']))

/** Which breakers trip, in words; empty: none. Every end is named. */
export function tripWords(ends: { trips: string[] }[]): string {
  const [first, ...others] = ends.map(({ trips }) => trips).sort((a, b) => a.length - b.length)
  if (!first?.length) return ''
  const sets = [
    `${first.length > 1 ? '{breakers}' : '{breaker}'} ${first.join(' and ')} ${first.length > 1 ? 'trip' : 'trips'}`,
    ...others.map((trips) => trips.join(' and ')),
  ]
  return sets.join(', or ')
}
/**
 * What is seen, in words: breakers that trip, then the lights, unless every end is dark.
 * @param circuits how many there are
 * @param lights what is said of them
 */
export const seenWords = (ends: Seen[], circuits: number, lights: string[]): string =>
  [tripWords(ends), ...(ends.some(({ trips }) => trips.length < circuits) ? lights : [])].filter(Boolean).join(', ')
/** What a light does, every end named: `off`, or `off or on`. */
export const lightWords = (ends: Seen[], id: string): string => [...new Set(ends.flatMap(({ lights }) => lights[id] ?? []))].join(' or ')
