import {
  believe,
  diagnose,
  expectedAt,
  homeOf,
  knownCables,
  nextTest,
  proposePlan,
  verify,
  type FoundBox,
  type LightLoad,
  type Observation,
  type PlannedDevice,
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
  /** Two ends somebody points at: what should a meter show there? */
  pair: [string, string] | null
}
export function answerWiring({ id, found, readings, energised, devices, plan, loads, options, observed, pair }: WiringQuestion) {
  const belief = believe(found, readings)
  const far = readings.at(-1)?.far ?? Array.from({ length: found.farSwitches }, () => 0)
  const advice = nextTest(found, readings, energised, belief)
  const cables = advice.done && advice.found ? knownCables(found, belief.findings) : null
  const proposed = cables && devices.length ? proposePlan(found, cables, devices) : null
  const used = cables ? (plan ?? proposed) : null
  const home = cables && used ? homeOf(found, cables, used, devices, loads) : null
  return {
    id,
    findings: belief.findings,
    advice,
    known: cables !== null,
    plan: used,
    verification: cables && used && home ? verify(found, cables, used, home, options) : null,
    lights: home?.outside.lights ?? [],
    expected: pair
      ? {
          dead: expectedAt(belief, { kind: 'continuity', a: pair[0], b: pair[1], closed: [], far }),
          live: expectedAt(belief, { kind: 'voltage', a: pair[0], b: pair[1], closed: found.circuits, far }),
        }
      : null,
    diagnosis: home && observed.length ? diagnose(home, observed) : null,
  }
}
export type WiringAnswer = ReturnType<typeof answerWiring>

self.onmessage = ({ data }: MessageEvent<WiringQuestion>) => self.postMessage(answerWiring(data))
