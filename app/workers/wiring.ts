import {
  believe,
  diagnose,
  predictedAt,
  judge,
  knownWays,
  nextTest,
  probe,
  probeEnds,
  proposePlan,
  testsAsSeen,
  withTests,
  type AsFoundBox,
  type LightLoad,
  type Observation,
  type PlannedDevice,
  type TestedLight,
  type WireReading,
  type WiringPlan,
} from '../../core/wiring'
import { proveTogether, type Mate } from '../../core/job/box-bench'
import { inTrade, schemeOf } from '../../core/units'
import type { ConnectionOrder } from '../../core/connect'
import { answers } from './answers'

/** Everything of a box's wiring that takes longer than a moment is computed here. */
export interface WiringQuestion {
  found: AsFoundBox
  readings: WireReading[]
  energised: boolean
  /** The conductors are off the old switches already. */
  apart: boolean
  devices: PlannedDevice[]
  plan: WiringPlan | null
  loads: LightLoad[]
  options: { order: ConnectionOrder; metric: boolean; gauge: string }
  observed: Observation[]
  tested: TestedLight[]
  otherLocation: 'companion' | 'partner' | null
  /** The other boxes of its group, with their plans. */
  name: string
  mates: Mate[]
  /** Two ends somebody points at while the roles are open: what should a meter show there? */
  pair: [string, string] | null
  /** Two ends of the new wiring: what should a meter show there? */
  probed: [string, string] | null
}
/** Everything but what depends on the two ends somebody points at. */
function answerBox({
  found,
  readings,
  energised,
  apart,
  devices,
  plan,
  loads,
  options,
  observed,
  tested,
  otherLocation,
  name,
  mates,
}: Omit<WiringQuestion, 'pair' | 'probed'>) {
  const belief = believe(found, readings)
  const advice = nextTest(found, readings, energised, { belief, apart })
  const ways = advice.done && advice.found ? knownWays(found, belief.findings) : null
  const cables = ways?.[0] ?? null
  const proposed = cables && devices.length ? proposePlan(found, cables, devices, { loads, otherLocation, feeds: plan?.feeds }) : null
  const used = cables ? (plan ?? proposed) : null
  const judged = ways && used ? judge(found, ways, used, devices, loads, options) : null
  const home = judged?.home ?? null
  const verification = judged?.verification ?? null
  const together = cables && used && devices.length ? proveTogether({ name, found, cables, plan: used, devices, loads }, mates) : null
  const tests = verification && home ? testsAsSeen(verification.table, home.outside.lights, home.outside.farSwitches, tested) : []
  const seen = withTests(observed, tests)
  return {
    belief,
    home,
    told: {
      findings: belief.findings,
      advice,
      known: cables !== null,
      plan: used,
      proposal: proposed,
      verification,
      together,
      /** Rows seen at the bench and those the functional tests tell; how many lights the tests told of. */
      observed: seen,
      tested: tests.length,
      lights: home?.outside.lights ?? [],
      ends: home ? probeEnds(home) : [],
      diagnosis: home && seen.length ? diagnose(home, seen) : null,
    },
  }
}
/** The newest box: pointing at two ends asks nothing else anew. */
let newest: { key: string; answer: ReturnType<typeof answerBox> } | null = null

/** In the words of the box's supply: sentences and labels alike. */
function answerWiring({ pair, probed, ...box }: WiringQuestion) {
  const key = JSON.stringify(box)
  const schemeId = schemeOf(box.found.nominalVolts)
  if (newest?.key !== key) {
    const answer = answerBox(box)
    newest = { key, answer: { ...answer, told: inTrade(answer.told, schemeId) } }
  }
  const { belief, home, told } = newest.answer
  const far = box.readings.at(-1)?.far ?? Array.from({ length: box.found.farSwitches }, () => 0)
  const suspect = told.diagnosis?.wiringIsRight === false ? told.diagnosis.groups[0]?.suspects[0] : undefined
  const rows = told.verification?.table ?? []
  const pointedAt = {
    expected: pair
      ? {
          dead: predictedAt(belief, { kind: 'continuity', a: pair[0], b: pair[1], closed: [], far }),
          live: predictedAt(belief, { kind: 'voltage', a: pair[0], b: pair[1], closed: box.found.circuits, far }),
        }
      : null,
    /** What the instruments show there as planned, and with the fault that explains best what was seen. */
    probed:
      probed && home ? { planned: probe(home, rows, probed), suspected: suspect ? probe(home, rows, probed, suspect.faults) : null } : null,
  }
  return { ...told, ...inTrade(pointedAt, schemeId) }
}
export interface WiringTalk {
  question: WiringQuestion
  answer: ReturnType<typeof answerWiring>
}
answers<WiringTalk>(answerWiring)
