import { leftAfterTrips, solveHome, type AfterTrips, type Light } from '../home'
import type { Fault } from '../model'
import type { PlannedHome } from './plan'

/** What somebody saw in one position: each light, after any breaker that had to has tripped. */
export interface Observation {
  positions: Record<string, number>
  lights: Record<string, Light>
  /** Circuits whose breaker tripped. */
  trips: string[]
}

/** What would be seen with these faults in each position: lights, trips. An unsettled state is seen as flicker. */
export function foresee(home: PlannedHome, faults: Fault[], rows: Record<string, number>[]): Observation[] {
  const wiring = { ...home.wiring, faults }
  return rows.map((positions) => {
    const answer = solveHome(wiring, { closed: wiring.circuits.map((circuit) => circuit.id), positions })
    return { positions, ...seenIn(home, answer.ok ? leftAfterTrips(answer.home) : unsettled) }
  })
}
const unsettled: AfterTrips = { trips: [], dark: false, home: null }
/** What one sees of it: a circuit whose breaker tripped is dark, the others go on. */
export function seenIn(home: PlannedHome, left: AfterTrips): Pick<Observation, 'lights' | 'trips'> {
  const { trips } = left
  return { lights: Object.fromEntries(home.outside.lights.map(({ id }) => [id, left.home?.light(id) ?? ('glow' as const)])), trips }
}

/** Which breakers trip, in words: nothing, or one sentence without its stop. */
export const tripWords = (trips: string[]): string[] =>
  trips.length ? [`breaker ${trips.join(' and ')} ${trips.length > 1 ? 'trip' : 'trips'}`] : []
