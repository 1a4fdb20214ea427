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
  verifyTogether,
  withTests,
  type AsFoundBox,
  type BoxOfGroup,
  type NotTogether,
  type Verdict,
  type OtherLocationStep,
  type Findings,
  type LightLoad,
  type PlannedDevice,
  type PlannedHome,
  type Seen,
  type TestedLight,
  type VerdictCode,
  type WireReading,
  type WiringPlan,
} from '../wiring'
import { asFoundBoxOf, wiringOf } from './box-wiring'
import { checksFor, pointsOfBox, testResults, wiredTogether } from './progress'
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
  /** Codes of what stands against the plans of its group as one wiring; none while not every one is laid and known. */
  together: VerdictCode[]
}
/** Each code of what stands against it, once. */
const blocking = (verdicts: Verdict[]): VerdictCode[] => [
  ...new Set(verdicts.filter(({ severity }) => severity === 'block').map(({ code }) => code)),
]
/** Judges a plan as it is laid, by every arrangement that fits the readings. */
export function judgePlan(job: JobState, site: SiteState, boxId: string, plan: WiringPlan): PlanJudgement {
  const { notes } = wiringOf(job, boxId)
  const box = site.boxes[boxId]
  const found = notes && box ? asFoundBoxOf(site, box, notes) : null
  const findings = findingsOf(job, site, boxId)
  const ways = found?.ok && findings ? knownWays(found.found, findings) : null
  const nothing: PlanJudgement = { against: [], elsewhere: [], together: [] }
  if (!found?.ok || !ways) return nothing
  const unjudged: PlanJudgement = { ...nothing, elsewhere: otherLocationSteps(ways[0]!, plan) }
  const devices = plannedDevices(job, boxId)
  if (lacksDevice(plan, devices)) return unjudged
  const loads = boxLoads(job, boxId)
  // What would hold the server up is left to the bench, which says it where it is laid.
  if (countPositions(homeOf(found.found, ways[0]!, plan, devices, loads)) * 2 ** found.found.circuits.length > mostStatesHere)
    return unjudged
  const { verification } = judge(found.found, ways, plan, devices, loads, {
    order: 'any',
    metric: false,
    gauge: '',
  })
  const own = { name: box!.name, found: found.found, cables: ways[0]!, plan, devices, loads }
  const whole = proveTogether(own, matesOf(job, site, boxId), mostStatesHere)
  // What is not laid yet, or cannot be joined, leaves the group unproven, not wrong.
  return { ...unjudged, against: blocking(verification.verdicts), together: whole.kind === 'proven' ? blocking(whole.verdicts) : [] }
}

/** Another box of a group as it goes into the proof of all: with its readings, for what its conductors are follows from them. */
export interface Mate {
  name: string
  /** Null: not described yet, or fed by two circuits of one number. */
  found: AsFoundBox | null
  readings: WireReading[]
  plan: WiringPlan | null
  devices: PlannedDevice[]
  loads: LightLoad[]
}
/** The boxes whose wiring hangs together with this one’s. */
export function matesOf(job: JobState, site: SiteState, boxId: string): Mate[] {
  const ids = wiredTogether(job, boxId)
  // Two circuits of one number, of two {panels}, are not told apart by it.
  const breakers = [...new Set(ids.flatMap((id) => site.boxes[id]?.breakerIds ?? []))].flatMap((id) => site.breakers[id] ?? [])
  const clash = new Set(breakers.map(({ number }) => number)).size < breakers.length
  return ids.slice(1).map((id): Mate => {
    const { notes, readings, plan } = wiringOf(job, id)
    const box = site.boxes[id]
    const found = notes && box && !clash ? asFoundBoxOf(site, box, notes) : null
    return {
      ...{ name: box?.name ?? 'another box', found: found?.ok ? found.found : null, readings, plan },
      ...{ devices: plannedDevices(job, id), loads: boxLoads(job, id) },
    }
  })
}
/**
 * alone: nothing is switched from another box · covered: the plan of this box says what is done at the others, and its own proof
 * holds for them · open: those are not laid yet, or not all of their conductors are known · else all were proven as one.
 */
export type ProvenTogether =
  | { kind: 'alone' }
  | { kind: 'covered'; names: string[] }
  | { kind: 'open'; names: string[] }
  | { kind: 'proven'; names: string[]; verdicts: Verdict[]; states: number }
  | { kind: 'cannot'; names: string[]; why: NotTogether }
/**
 * Proves the plan of a box and those of its mates as one wiring, in every position of everything.
 * @param most so many states at most: where something waits for the answer
 */
export function proveTogether(own: BoxOfGroup, mates: Mate[], most?: number): ProvenTogether {
  if (mates.length === 0) return { kind: 'alone' }
  const names = mates.map(({ name }) => name)
  const rewired = own.plan.elsewhere.some(({ becomes }) => becomes !== 'partner' && becomes !== 'asItWas')
  if (rewired && mates.every(({ plan }) => !plan)) return { kind: 'covered', names }
  const boxes = mates.map(({ name, found, readings, plan, devices, loads }): BoxOfGroup | null => {
    const cables = found && plan ? knownWays(found, believe(found, readings).findings)?.[0] : null
    if (!found || !plan || !cables || lacksDevice(plan, devices)) return null
    return { name, found, cables, plan, devices, loads }
  })
  const open = names.filter((_, index) => boxes[index] === null)
  if (open.length) return { kind: 'open', names: open }
  const answer = verifyTogether([own, ...boxes.flatMap((one) => one ?? [])], most)
  return answer.ok ? { kind: 'proven', names, ...answer } : { kind: 'cannot', names, why: answer.why }
}
/** A terminal of a device that nobody has chosen yet cannot be judged. */
export const lacksDevice = (plan: WiringPlan, devices: PlannedDevice[]) =>
  plan.devices.some(({ gang }) => !devices.some((device) => device.gang === gang))

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
/**
 * The home as far as a box reaches it, by its plan, or by the one that would be proposed.
 * @returns null where the box is not described, or not all of its conductors are known
 */
export function homeOnRecord(job: JobState, site: SiteState, boxId: string): { found: AsFoundBox; home: PlannedHome } | null {
  const { notes, plan } = wiringOf(job, boxId)
  const box = site.boxes[boxId]
  const found = notes && box ? asFoundBoxOf(site, box, notes) : null
  const findings = findingsOf(job, site, boxId)
  const cables = found?.ok && findings ? knownCables(found.found, findings) : null
  if (!found?.ok || !cables) return null
  const devices = plannedDevices(job, boxId)
  const loads = boxLoads(job, boxId)
  const laid = plan ?? proposePlan(found.found, cables, devices, { loads })
  return { found: found.found, home: homeOf(found.found, cables, laid, devices, loads) }
}
/** What each light of a box should do, and what was seen at the bench or in the functional tests. Empty while nothing was noted. */
export function predictedAndSeen(job: JobState, site: SiteState, boxId: string): PredictedRow[] {
  const { observed } = wiringOf(job, boxId)
  const tested = testedLights(job, site, boxId)
  const record = observed.length || tested.length ? homeOnRecord(job, site, boxId) : null
  if (!record) return []
  const { found, home } = record
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
      const shown = (ends: Seen[]) => seenWords(ends, found.circuits.length, [lightWords(ends, light.id)])
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
