import {
  believe,
  diagnose,
  expectedAt,
  homeOf,
  knownCables,
  nextTest,
  proposePlan,
  testsAsSeen,
  verify,
  withTests,
  type FoundBox,
  type LightLoad,
  type Observation,
  type PlannedDevice,
  type TestedLight,
  type WireReading,
  type WiringPlan,
} from '../../core/wiring'
import type { ConnectionOrder } from '../../core/connect'

/** Everything of a box's wiring that takes longer than a moment is computed here. */
export interface WiringQuestion {
  id: number
  found: FoundBox
  readings: WireReading[]
  energised: boolean
  devices: PlannedDevice[]
  plan: WiringPlan | null
  loads: LightLoad[]
  options: { order: ConnectionOrder; metric: boolean; gauge: string }
  observed: Observation[]
  tested: TestedLight[]
  otherLocation: 'companion' | 'partner' | null
  /** Two ends somebody points at: what should a meter show there? */
  pair: [string, string] | null
}
export function answerWiring({
  id,
  found,
  readings,
  energised,
  devices,
  plan,
  loads,
  options,
  observed,
  tested,
  otherLocation,
  pair,
}: WiringQuestion) {
  const belief = believe(found, readings)
  const far = readings.at(-1)?.far ?? Array.from({ length: found.farSwitches }, () => 0)
  const advice = nextTest(found, readings, energised, belief)
  const cables = advice.done && advice.found ? knownCables(found, belief.findings) : null
  const proposed = cables && devices.length ? proposePlan(found, cables, devices, { loads, otherLocation, feeds: plan?.feeds }) : null
  const used = cables ? (plan ?? proposed) : null
  const home = cables && used ? homeOf(found, cables, used, devices, loads) : null
  const verification = cables && used && home ? verify(found, cables, used, home, options) : null
  const tests = verification && home ? testsAsSeen(verification.table, home.outside.lights, home.outside.farSwitches, tested) : []
  const seen = withTests(observed, tests)
  return {
    id,
    findings: belief.findings,
    advice,
    known: cables !== null,
    plan: used,
    proposal: proposed,
    verification,
    /** Rows seen at the bench and those the functional tests tell; how many lights the tests told of. */
    observed: seen,
    tested: tests.length,
    lights: home?.outside.lights ?? [],
    expected: pair
      ? {
          dead: expectedAt(belief, { kind: 'continuity', a: pair[0], b: pair[1], closed: [], far }),
          live: expectedAt(belief, { kind: 'voltage', a: pair[0], b: pair[1], closed: found.circuits, far }),
        }
      : null,
    diagnosis: home && seen.length ? diagnose(home, seen) : null,
  }
}
export type WiringAnswer = ReturnType<typeof answerWiring>

self.onmessage = ({ data }: MessageEvent<WiringQuestion>) => self.postMessage(answerWiring(data))
