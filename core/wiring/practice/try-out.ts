import { foresee, type Observation } from '../plan/seen'
import type { WiringPlan } from '../plan/plan'
import type { Prediction } from '../plan/verdicts'
import { trueHome, type PracticeBox } from './boxes'

/**
 * Closes the breaker of a practice box wired by a plan, and looks in every position of the predicted table.
 * @param lights the lights as the plan knows them; told apart by the conductor that feeds them
 */
export function tryOut(
  box: PracticeBox,
  plan: WiringPlan,
  table: Prediction[],
  lights: { id: string; letter: string }[],
): { observed: Observation[]; works: boolean } {
  const truth = trueHome(box, plan)
  const seen = foresee(
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
  const works = table.every((row, index) => lights.every((light) => row.lights[light.id] === observed[index]!.lights[light.id]))
  const switched = lights.every((light) => new Set(observed.map((row) => row.lights[light.id])).size > 1)
  return { observed, works: works && switched && observed.every((row) => row.trips.length === 0) }
}
