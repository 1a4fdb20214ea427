import { endsOf, predictSeen, type Observation } from '../plan/seen'
import type { WiringPlan } from '../plan/plan'
import type { Prediction } from '../plan/verdicts'
import { trueHome, type PracticeBox } from './boxes'

export interface TriedOut {
  observed: Observation[]
  /** As the table said, in every position: what works and what does not. */
  asPredicted: boolean
  /** As the table said, and every light is switched and no breaker trips. */
  works: boolean
}
/**
 * Closes the breaker of a practice box wired by a plan, and looks in every position of the predicted table.
 * @param lights the lights as the plan knows them; told apart by the conductor that feeds them
 */
export function tryOut(box: PracticeBox, plan: WiringPlan, table: Prediction[], lights: { id: string; letter: string }[]): TriedOut {
  const truth = trueHome(box, plan)
  const seen = predictSeen(
    truth,
    [],
    table.map((row) => row.positions),
  )
  const hiddenOf = (light: { letter: string }, index: number) =>
    truth.outside.lights.find((one) => one.letter === light.letter) ?? truth.outside.lights[index]!
  const observed = seen.map(({ positions, trips, ...row }) => ({
    positions,
    trips,
    lights: Object.fromEntries(lights.map((light, index) => [light.id, row.lights[hiddenOf(light, index).id]!])),
  }))
  const asPredicted = table.every((row, index) => {
    const { trips, lights: shown } = observed[index]!
    return endsOf(row).some((end) => end.trips.join() === trips.join() && lights.every(({ id }) => end.lights[id] === shown[id]))
  })
  const switched = lights.every((light) => new Set(observed.map((row) => row.lights[light.id])).size > 1)
  return { observed, asPredicted, works: asPredicted && switched && observed.every((row) => row.trips.length === 0) }
}
