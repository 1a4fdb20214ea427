import type { Light } from '../home'
import type { Observation } from './seen'

/** What a functional test of a point said: from the control in this box the light could be switched on, or off, or not. */
export interface TestedLight {
  letter: string
  wanted: 'on' | 'off'
  /** How the other location stood, 0 up and 1 down; null: it was not asked. */
  far: number | null
  passed: boolean
}

/**
 * Functional tests as rows of the predicted table, so that there is one comparison: a passed check was seen as predicted,
 * a failed one as its opposite. Channels nobody spoke of stand as in the first row that fits.
 */
export function testsAsSeen(
  table: { positions: Record<string, number>; lights: Record<string, Light> }[],
  lights: { id: string; letter: string }[],
  farSwitches: string[],
  tested: TestedLight[],
): Observation[] {
  const seen = new Map<string, Observation>()
  for (const test of tested) {
    const light = lights.find((one) => one.letter === test.letter)
    const far = farSwitches.length === 1 ? farSwitches[0]! : null
    if (!light) continue
    const row = table.find(
      ({ positions, lights: shown }) =>
        (shown[light.id] === 'off') === (test.wanted === 'off') && (far === null || test.far === null || positions[far] === test.far),
    )
    if (!row) continue
    const key = JSON.stringify(row.positions)
    const known = seen.get(key) ?? { positions: row.positions, lights: {}, trips: [] }
    const value = test.passed ? row.lights[light.id]! : test.wanted === 'on' ? 'off' : 'on'
    // A check that failed once has more to say than one that passed.
    if (!test.passed || known.lights[light.id] === undefined) known.lights[light.id] = value
    seen.set(key, known)
  }
  return [...seen.values()]
}

/** Rows seen at the bench and those the functional tests tell, each position once: what was noted at the bench is nearer. */
export function withTests(observed: Observation[], tests: Observation[]): Observation[] {
  const noted = new Map(observed.map((row) => [JSON.stringify(row.positions), row]))
  return [
    ...observed.map((row) => {
      const test = tests.find((one) => JSON.stringify(one.positions) === JSON.stringify(row.positions))
      return test ? { ...row, lights: { ...test.lights, ...row.lights } } : row
    }),
    ...tests.filter((row) => !noted.has(JSON.stringify(row.positions))),
  ]
}
