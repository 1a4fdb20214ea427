import { loadWatts } from '../fit'
import type { SiteState } from '../site'
import {
  believe,
  countPositions,
  otherLocationSteps,
  endsOf,
  everyPosition,
  predictSeen,
  homeOf,
  judge,
  knownCables,
  knownWays,
  lightWords,
  positionWords,
  proposePlan,
  seenWords,
  terminalModel,
  testsAsSeen,
  withTests,
  type OtherLocationStep,
  type Findings,
  type LightLoad,
  type PlannedDevice,
  type Seen,
  type TestedLight,
  type VerdictCode,
  type WiringPlan,
} from '../wiring'
import { asFoundBoxOf, wiringOf } from './box-wiring'
import { checksFor, pointsOfBox, testResults } from './progress'
import type { JobState } from './state'

/** What of a box's record needs the wiring's computation: kept apart, so that pages which only show the record do not load it. */

/** What the readings in the record say, or null while the box was not described. */
export function findingsOf(job: JobState, site: SiteState, boxId: string): Findings | null {
  const { notes, readings } = wiringOf(job, boxId)
  const box = site.boxes[boxId]
  if (!notes || !box) return null
  const found = asFoundBoxOf(site, box, notes)
  return found.ok ? believe(found.found, readings).findings : null
}

/** So many states are solved outside of a worker: some 100 ms. */
const mostStatesHere = 128
/** What the record keeps of a plan, besides the plan. */
export interface PlanJudgement {
  /** Codes of its red verdicts; none while it is open what the conductors or the devices are. */
  against: VerdictCode[]
  /** What it wants done at other locations and at fixtures. */
  elsewhere: OtherLocationStep[]
}
/** Judges a plan as it is laid, by every arrangement that fits the readings. */
export function judgePlan(job: JobState, site: SiteState, boxId: string, plan: WiringPlan): PlanJudgement {
  const { notes } = wiringOf(job, boxId)
  const box = site.boxes[boxId]
  const found = notes && box ? asFoundBoxOf(site, box, notes) : null
  const findings = findingsOf(job, site, boxId)
  const ways = found?.ok && findings ? knownWays(found.found, findings) : null
  if (!found?.ok || !ways) return { against: [], elsewhere: [] }
  const elsewhere = otherLocationSteps(ways[0]!, plan)
  const devices = plannedDevices(job, boxId)
  // A terminal of a device that nobody has chosen yet cannot be judged.
  if (plan.devices.some(({ gang }) => !devices.some((device) => device.gang === gang))) return { against: [], elsewhere }
  const loads = boxLoads(job, boxId)
  // What would hold the server up is left to the bench, which says it where it is laid.
  if (countPositions(homeOf(found.found, ways[0]!, plan, devices, loads)) * 2 ** found.found.circuits.length > mostStatesHere)
    return { against: [], elsewhere }
  const { verification } = judge(found.found, ways, plan, devices, loads, {
    order: 'any',
    metric: false,
    gauge: '',
  })
  const red = verification.verdicts.filter(({ severity }) => severity === 'block').map(({ code }) => code)
  return { against: [...new Set(red)], elsewhere }
}

/** Devices chosen for a box, as the wiring sees them. */
export function plannedDevices(job: JobState, boxId: string): PlannedDevice[] {
  return Object.entries(job.boxes[boxId]?.devices ?? {}).map(([gang, { model }]) => ({
    gang: Number(gang),
    name: model.name,
    model: terminalModel(model),
  }))
}
/** Loads of the points a box switches; each with the conductor that feeds it, where the plan says so. */
export function boxLoads(job: JobState, boxId: string): LightLoad[] {
  const feeds = wiringOf(job, boxId).plan?.feeds ?? []
  return pointsOfBox(job, boxId).map((point): LightLoad => {
    const { technology } = point.load
    return {
      technology: technology === 'socket' ? 'filament' : technology,
      watts: Math.max(1, loadWatts(point.load)),
      letter: feeds.find((feed) => feed.pointId === point.id)?.letter,
    }
  })
}
/** What is chosen for the other location of a point of this box: a companion, the device that carries the load, or nothing yet. */
export function otherLocationOf(job: JobState, boxId: string): 'companion' | 'partner' | null {
  const devices = pointsOfBox(job, boxId).flatMap((point) =>
    point.controls.filter((control) => control.boxId !== boxId).flatMap((control) => job.boxes[control.boxId]?.devices[control.gang] ?? []),
  )
  if (devices.some(({ model }) => model.kind === 'companion' && model.terminals.includes('sense'))) return 'companion'
  return devices.some(({ model }) => model.kind !== 'companion') ? 'partner' : null
}

/** Functional tests of the points a box feeds, made from its own control: for the one comparison with what was predicted. */
export function testedLights(job: JobState, site: SiteState, boxId: string): TestedLight[] {
  const feeds = wiringOf(job, boxId).plan?.feeds ?? []
  return feeds.flatMap(({ letter, pointId }) => {
    const point = job.points[pointId]
    const here = site.boxes[boxId]?.name
    if (!point) return []
    return checksFor(job, site, point).flatMap((check): TestedLight[] => {
      const result = testResults(job, site, point)[check.id]?.result
      if ((check.kind !== 'on' && check.kind !== 'off') || check.location !== here || (result !== 'pass' && result !== 'fail')) return []
      const others = check.others ?? []
      return others.length > 1 ? [] : [{ letter, wanted: check.kind, far: others[0] ?? null, passed: result === 'pass' }]
    })
  })
}

export interface PredictedRow {
  position: string
  light: string
  predicted: string
  seen: string
}
/** What each light of a box should do, and what was seen at the bench or in the functional tests. Empty while nothing was noted. */
export function predictedAndSeen(job: JobState, site: SiteState, boxId: string): PredictedRow[] {
  const { notes, plan, observed } = wiringOf(job, boxId)
  const box = site.boxes[boxId]
  const tested = testedLights(job, site, boxId)
  const findings = observed.length || tested.length ? findingsOf(job, site, boxId) : null
  const found = notes && box ? asFoundBoxOf(site, box, notes) : null
  if (!found?.ok || !findings) return []
  const cables = knownCables(found.found, findings)
  if (!cables) return []
  const devices = plannedDevices(job, boxId)
  const loads = boxLoads(job, boxId)
  const home = homeOf(found.found, cables, plan ?? proposePlan(found.found, cables, devices, { loads }), devices, loads)
  const { lights, farSwitches } = home.outside
  const seen = withTests(observed, testsAsSeen(predictSeen(home, [], [...everyPosition(home)]), lights, farSwitches, tested))
  const predicted = predictSeen(
    home,
    [],
    seen.map((row) => row.positions),
  )
  return seen.flatMap((row, index) =>
    lights.flatMap((light) => {
      if (!row.trips.length && row.lights[light.id] === undefined) return []
      const shown = (ends: Seen[]) => seenWords(ends, found.found.circuits.length, [lightWords(ends, light.id)])
      return [
        {
          position: positionWords(home, row.positions),
          light: `${light.motor ? 'motor' : 'light'} on ${light.letter}`,
          predicted: shown(endsOf(predicted[index]!)),
          seen: shown([row]),
        },
      ]
    }),
  )
}
