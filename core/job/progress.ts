import { functionalChecks, type Beside, type FunctionalCheck } from '../commission'
import { connectionSteps, type ConnectionMethod, type ConnectionStep, type ConductorRole } from '../connect'
import type { DeviceModel } from '../fit'
import { hasChannels } from '../fit/device-model'
import type { BoxState, SiteState } from '../site'
import { schemeIds } from '../units/scheme'
import { inTrade } from '../units/trade-words'
import { laidOn } from '../wiring/plan/connection-list'
import { otherLocationPlace, otherLocationWord, lowerFirst, type OtherLocationStep } from '../wiring/plan/other-location-words'
import type { VerdictCode } from '../wiring/plan/verdicts'
import type { LightPoint } from './parts.schema'
import { linkChecksOf } from './link/link-checks-of'
import { shopEvidence } from './shop/prepared'
import type { CodeCheck, JobState, TestResult, Unit } from './state'
import type { CodePlace } from './unit/code-places'

export type PointStatus = 'passed' | 'failed' | 'partial' | 'untested'
export const jobStatuses = ['toSchedule', 'scheduled', 'onSite', 'between', 'handedOver', 'callback'] as const
export type JobStatus = (typeof jobStatuses)[number]
export const jobStatusWords: Record<JobStatus, string> = {
  toSchedule: 'to schedule',
  scheduled: 'scheduled',
  onSite: 'on site',
  between: 'between visits',
  handedOver: 'handed over',
  callback: 'callback open',
}

/** Where a device of a point may sit: at its fixture, and where it is switched from. */
export const placesOf = (point: LightPoint): LightPoint['controls'] =>
  point.fixtureBoxId ? [{ boxId: point.fixtureBoxId, gang: 1 }, ...point.controls] : point.controls

/** Where a point's load is carried: by the chosen device that lists the point and is no companion; one at its fixture first. */
function mainPlace(job: JobState, point: LightPoint): { boxId: string; gang: number; model: DeviceModel } | null {
  for (const { boxId, gang } of placesOf(point)) {
    const device = job.boxes[boxId]?.devices[gang]
    if (device && device.model.kind !== 'companion' && device.pointIds.includes(point.id)) return { boxId, gang, model: device.model }
  }
  return null
}
export const mainModel = (job: JobState, point: LightPoint): DeviceModel | null => mainPlace(job, point)?.model ?? null

export function checksFor(job: JobState, site: SiteState, point: LightPoint): FunctionalCheck[] {
  const locations = point.controls.map((control) => ({ ...control, name: site.boxes[control.boxId]?.name ?? 'box' }))
  const place = mainPlace(job, point)
  const unit = place && unitAt(job, place.boxId, place.gang)
  const results = testResults(job, site, point)
  // What the link has tried counts; a link that is not there any more keeps nobody from finishing.
  const tried = unit ? linkChecksOf(job, unit, point).filter(({ id }) => results[id]) : []
  const checks = functionalChecks(point.load, locations, place?.model ?? null, besideOf(job, site, point))
  // Signed for before these were asked, and nothing opened since: nobody has to come back for them.
  const asked = wasHandedOver(job, site, point) ? checks.filter(({ id, kind }) => results[id] || !askedLater.includes(kind)) : checks
  return [...asked, ...tried]
}
const askedLater: readonly FunctionalCheck['kind'][] = ['fan', 'step', 'own', 'onward']
const lastOpened = (site: SiteState, point: LightPoint): string =>
  placesOf(point)
    .map(({ boxId }) => site.boxes[boxId]?.lastOpenedAt ?? '')
    .reduce((a, b) => (a > b ? a : b), '')
const wasHandedOver = (job: JobState, site: SiteState, point: LightPoint): boolean =>
  job.handedOverAt !== null && lastOpened(site, point) < job.handedOverAt

/** What else could answer when this point is switched, and what could have gone dead behind its boxes. */
function besideOf(job: JobState, site: SiteState, point: LightPoint): Beside {
  const boxIds = placesOf(point).map(({ boxId }) => boxId)
  const others = boxIds.flatMap((boxId) => pointsOfBox(job, boxId)).filter(({ id }) => id !== point.id)
  // Said once, by the first point of the box.
  const firstAt = (boxId: string) => pointsOfBox(job, boxId)[0]?.id === point.id
  return {
    points: [...new Set(others.map(({ name }) => name))],
    onwardFrom: [...new Set(boxIds)].flatMap((boxId) =>
      feedsOn(job, site, boxId) && firstAt(boxId) ? (site.boxes[boxId]?.name ?? []) : [],
    ),
  }
}
/** More lines than feeds: one of them goes on to somewhere else. */
const feedsOn = (job: JobState, site: SiteState, boxId: string): boolean =>
  Object.values(rolesIn(job, boxId)).filter((role) => role === 'line').length > Math.max(1, site.boxes[boxId]?.breakerIds.length ?? 0)

/**
 * The newest result of each check that still says something: made after each of the point's boxes was last open, so with
 * the devices and the wiring that are in now; or made in the shop, of what depends on nothing in the home and was never made here.
 */
export function testResults(job: JobState, site: SiteState, point: LightPoint): Record<string, TestResult> {
  const newest = lastOpened(site, point)
  const here = job.tests[point.id] ?? {}
  const place = mainPlace(job, point)
  const unit = place && unitAt(job, place.boxId, place.gang)
  // A test lamp that comes back says nothing of a motor that has to.
  const lamp = !point.mustRun && (point.load.technology === 'led' || point.load.technology === 'filament')
  const fromShop = Object.entries(unit ? shopEvidence(job, unit) : {}).filter(
    ([checkId]) => !here[checkId] && (lamp || checkId !== 'power'),
  )
  return Object.fromEntries([...fromShop, ...Object.entries(here).filter(([, test]) => test.madeAt >= newest)])
}

/** What was seen with the wires out since a box of the point was opened, and has not been tested closed: by check. */
export function seenWiresOut(job: JobState, site: SiteState, point: LightPoint): Record<string, TestResult> {
  const tested = testResults(job, site, point)
  const opened = lastOpened(site, point)
  return Object.fromEntries(
    Object.entries(job.wiresOut[point.id] ?? {}).filter(([checkId, { madeAt }]) => !tested[checkId] && madeAt >= opened),
  )
}

/** failed when any check's newest result is a fail; passed when all pass. */
export function pointStatus(job: JobState, site: SiteState, point: LightPoint): PointStatus {
  const results = testResults(job, site, point)
  const checks = checksFor(job, site, point)
  if (checks.some((check) => results[check.id]?.result === 'fail')) return 'failed'
  const passed = checks.filter((check) => results[check.id]?.result === 'pass').length
  return passed === checks.length ? 'passed' : passed > 0 ? 'partial' : 'untested'
}

/** The boxes of a job that are there, in the order they were listed. */
export const boxesOfJob = (job: JobState, site: SiteState): BoxState[] =>
  job.boxIds.flatMap((id) => site.boxes[id] ?? []).filter(({ retired }) => !retired)

export function pointsInOrder(job: JobState): LightPoint[] {
  return job.pointOrder.flatMap((id) => job.points[id] ?? [])
}

/** What a device switches, as it was chosen for its place. */
export const pointsOfUnit = (job: JobState, unit: Pick<Unit, 'boxId' | 'gang'>): LightPoint[] =>
  (job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []).flatMap((id) => job.points[id] ?? [])
/** Points that are switched from a box, or from one gang of it, or that hang on it, in walk order. */
export const pointsOfBox = (job: JobState, boxId: string, gang?: number): LightPoint[] =>
  pointsInOrder(job).filter((point) =>
    placesOf(point).some((place) => place.boxId === boxId && (gang === undefined || place.gang === gang)),
  )

export function currentUnits(job: JobState): Unit[] {
  return Object.values(job.units).filter((unit) => unit.removedAt === null)
}

/**
 * Of a point that several devices switch: which of them carries the load, and so is the primary. The others listen to it, and are
 * told to once it is there.
 * @returns null where this device shares no point with another
 */
export function placeInGroup(job: JobState, unit: Unit): { is: 'primary' | 'secondary'; primary: Unit; others: Unit[] } | null {
  const units = currentUnits(job)
  for (const pointId of job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []) {
    const point = job.points[pointId]
    const main = point && mainPlace(job, point)
    const primary = main ? unitAt(job, main.boxId, main.gang) : null
    if (!point || !primary) continue
    const others = units.filter(({ id, boxId, gang }) => id !== primary.id && job.boxes[boxId]?.devices[gang]?.pointIds.includes(point.id))
    if (others.length) return { is: primary.id === unit.id ? 'primary' : 'secondary', primary, others }
  }
  return null
}

/** Places of a device that say another setup code than the one on record. */
export const codesThatDiffer = (job: JobState, unitId: string) =>
  (Object.entries(job.codeChecks[unitId] ?? {}) as [CodePlace, CodeCheck][]).filter(([, { agrees }]) => !agrees)

/** Every name of a device: its own, and those of its channels. */
export const namesOf = (unit: Unit): string[] => [unit.name, ...Object.values(unit.channelNames)].filter(Boolean)
/** Names that one of this device must not sound like: of the others, and its own but for the one that is given. */
export const namesBeside = (job: JobState, unit: Unit, pointId: string | null): string[] => [
  ...currentUnits(job)
    .filter((other) => other.id !== unit.id)
    .flatMap(namesOf),
  ...(pointId && unit.name ? [unit.name] : []),
  ...Object.entries(unit.channelNames).flatMap(([id, name]) => (id === pointId ? [] : [name])),
]
/** Points of a device that each have a channel of their own, and so a name. */
export const channelPoints = (job: JobState, unit: Unit): LightPoint[] => {
  const ids = job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []
  return hasChannels(unit.model) && ids.length > 1 ? ids.flatMap((id) => job.points[id] ?? []) : []
}

/** Gangs of a box in which a device of this job is installed now. */
export const installedGangs = (job: JobState, boxId: string): number[] =>
  currentUnits(job).flatMap((unit) => (unit.boxId === boxId ? [unit.gang] : []))

export function unitAt(job: JobState, boxId: string, gang: number): Unit | null {
  return currentUnits(job).find((unit) => unit.boxId === boxId && unit.gang === gang) ?? null
}

export function rolesIn(job: JobState, boxId: string): Record<string, ConductorRole> {
  return Object.fromEntries(Object.entries(job.boxes[boxId]?.roles ?? {}).map(([letter, known]) => [letter, known.role]))
}

/**
 * Has this box several gangs, feeds or control locations? Then roles alone do not say which line belongs to which load:
 * its steps follow from a wiring that was laid.
 */
export function needsPlan(job: JobState, site: SiteState, boxId: string): boolean {
  const box = site.boxes[boxId]
  const manyWays = pointsOfBox(job, boxId).some((point) => point.fixtureBoxId !== boxId && point.controls.length > 1)
  return box !== undefined && (box.gangs > 1 || box.breakerIds.length > 1 || manyWays)
}

/** What at a box was done under a proof that had ended: so many things somebody has to look at. */
export const inDoubtAt = (job: JobState, boxId: string): number => {
  const work = job.boxes[boxId]
  return work ? [...Object.values(work.roles), ...Object.values(work.steps)].filter((one) => one.inDoubt).length : 0
}

/** Was a wiring laid that something stands against, in this box or in all of a group together? Nothing is connected by it. */
export const planIsRed = (job: JobState, boxId: string): boolean => {
  const wiring = job.boxes[boxId]?.wiring
  if (!wiring?.plan) return false
  return Boolean(wiring.planned?.against?.length) || wrongTogether(job, boxId).length > 0
}
/** What stands against the plans of a group as one wiring, as it was worked out when the last of them was laid. */
export const wrongTogether = (job: JobState, boxId: string): VerdictCode[] =>
  wiredTogether(job, boxId).flatMap((id) => job.boxes[id]?.wiring?.planned?.together ?? [])
/** Puts down what stands against all plans of a group; it takes the place of what was said of it before. */
export function setTogether(job: JobState, boxId: string, codes: VerdictCode[] | null): void {
  for (const id of wiredTogether(job, boxId)) {
    const planned = job.boxes[id]?.wiring?.planned
    if (planned) delete planned.together
  }
  const planned = job.boxes[boxId]?.wiring?.planned
  if (planned && codes?.length) planned.together = codes
}

/** Other boxes that switch a point together with this box, or with one gang of it: a multi-way group is one wiring. */
export function groupOf(job: JobState, boxId: string, gang?: number): string[] {
  return [...new Set(pointsOfBox(job, boxId, gang).flatMap((point) => point.controls.map((control) => control.boxId)))].filter(
    (id) => id !== boxId,
  )
}
/** All boxes that hang together with this one by what they switch, itself first: their wirings are one. */
export function wiredTogether(job: JobState, boxId: string): string[] {
  const all = new Set([boxId])
  // A set is walked in the order things were put in, also while it grows.
  for (const id of all) for (const other of groupOf(job, id)) all.add(other)
  return [...all]
}
/** A step that the plan of another box of the group wants done here. */
export interface StepFromOtherBox {
  fromBoxId: string
  id: string
  step: OtherLocationStep
}
/** Ids of the steps that come from a box's plan begin so; short, for the record of a tick holds little. */
const fromPrefix = (fromBoxId: string) => `connect:from:${fromBoxId.slice(-12)}:`
/** Is this step of a box's plan done at that other box: at the fixture of the light it is about, or at another location? */
function isDoneAt(job: JobState, fromBoxId: string, { far, work }: OtherLocationStep, boxId: string): boolean {
  const hanging = pointsInOrder(job).filter(({ fixtureBoxId }) => fixtureBoxId === boxId)
  if (far !== null) return hanging.length === 0
  const feeds = job.boxes[fromBoxId]?.wiring?.plan?.feeds ?? []
  const pointId = work.does === 'fixtureRelay' ? feeds.find(({ letter }) => letter === work.letter)?.pointId : undefined
  return hanging.some(({ id }) => id === pointId)
}
/** What the plans of the other boxes of the group want done at a gang of this box. */
export function stepsFromOtherBoxes(job: JobState, boxId: string, gang: number): StepFromOtherBox[] {
  return groupOf(job, boxId, gang).flatMap((fromBoxId) =>
    planIsRed(job, fromBoxId)
      ? []
      : (job.boxes[fromBoxId]?.wiring?.planned?.elsewhere ?? []).flatMap((step, index) =>
          isDoneAt(job, fromBoxId, step, boxId) ? [{ fromBoxId, id: `${fromPrefix(fromBoxId)}${index}`, step }] : [],
        ),
  )
}
/** The box whose plan says all that is done at this one: with a plan of its own the two could contradict each other. */
export const planAtOtherBoxOf = (job: JobState, boxId: string): string | null =>
  groupOf(job, boxId).find((id) =>
    (job.boxes[id]?.wiring?.planned?.elsewhere ?? []).some(({ far, work }) => far !== null && work.does !== 'partner'),
  ) ?? null
/** A laid plan changes other locations, and the server has not said what is done there: laid without network, or by an older program. */
export const openAtOtherBoxes = (job: JobState, boxId: string): boolean => {
  const wiring = job.boxes[boxId]?.wiring
  return Boolean(wiring?.plan?.elsewhere.some(({ becomes }) => becomes !== 'asItWas') && !wiring.planned?.elsewhere)
}
/** A step of another box's plan in words for whoever stands here: its conductors by their colours, for they have other letters here. */
export function fromOtherBoxWords(job: JobState, site: SiteState, { fromBoxId, step }: StepFromOtherBox): string {
  const box = site.boxes[fromBoxId]
  const name = (letter: string) => {
    const conductor = box?.conductors.find((one) => one.letter === letter)
    return conductor ? `the ${conductor.colour} conductor from ${box!.name} (${letter} there)` : letter
  }
  const words = otherLocationWord(step, name)
  // With one other location there is no doubt which is meant.
  if (groupOf(job, fromBoxId).length < 2) return words
  return `${otherLocationPlace(step, true)}: ${lowerFirst(words)}`
}

/**
 * The connection steps of one gang, with what the plans of other boxes of its group want done here; none for a box whose
 * wiring has to be laid first and is not.
 */
export function stepsFor(job: JobState, site: SiteState, boxId: string, gang: number, method: ConnectionMethod): ConnectionStep[] {
  const device = job.boxes[boxId]?.devices[gang]
  const plan = job.boxes[boxId]?.wiring?.plan
  if (planIsRed(job, boxId)) return []
  const fromOtherBoxes = stepsFromOtherBoxes(job, boxId, gang).map((one): ConnectionStep => {
    const ground = one.step.work.does === 'companion' ? ' Its {ground}, where it has one, to the {grounds}.' : ''
    return {
      id: one.id,
      phase: 'connect',
      text: `${fromOtherBoxWords(job, site, one)}${ground}`,
      why: `As planned for ${site.boxes[one.fromBoxId]?.name ?? 'the other box'}: the two are wired together. A colour is a hint: ring each conductor out to there before it is joined.`,
      terminal: null,
      letters: [],
    }
  })
  if (!device || (!plan && needsPlan(job, site, boxId))) return fromOtherBoxes
  const multiWay = device.pointIds.some((id) => (job.points[id]?.controls.length ?? 1) > 1)
  const own = connectionSteps(device.model, rolesIn(job, boxId), method, multiWay, plan ? laidOn(plan, gang) : undefined)
  const close = own.findIndex(({ phase }) => phase === 'close')
  return [...own.slice(0, close), ...fromOtherBoxes, ...own.slice(close), ...chainsOf(job, boxId, gang)]
}
/** Left lower, the switch in a fan keeps it from every speed that the wall asks for: that is set while there is no power. */
const chainsOf = (job: JobState, boxId: string, gang: number): ConnectionStep[] =>
  pointsOfUnit(job, { boxId, gang })
    .filter((point) => {
      const main = mainPlace(job, point)
      return point.load.technology === 'fan' && main?.boxId === boxId && main.gang === gang
    })
    .map((point) => ({
      id: `chains:${point.id}`,
      phase: 'close',
      text: 'Before power: the fan’s pull chain, where it has one, on highest; its light’s chain on.',
      why: 'Its own switch would limit what the wall asks for. It is looked at again in the test.',
      terminal: null,
      letters: [],
    }))

/** Is this the sentence, in the words of either supply? */
const isSaid = (text: string, sentence: string) => schemeIds.some((scheme) => text === inTrade(sentence, scheme))

/** Who did this very step: the same words, at the device that is chosen now. A tick falls with what it was about. */
export function stepDone(job: JobState, boxId: string, gang: number, step: ConnectionStep): { by: string; at: string } | null {
  const work = job.boxes[boxId]
  const mark = work?.steps[`${gang}:${step.id}`]
  return mark && isSaid(mark.text, step.text) && (mark.modelId ?? null) === (work.devices[gang]?.model.id ?? null) ? mark : null
}

/** What was done under another plan or for another device. */
export interface StepToUndo {
  id: string
  text: string
  /** Whoever did it. */
  by: string
}
/** Somebody undoes these before the box is closed. */
export function stepsToUndo(job: JobState, boxId: string, gang: number, steps: ConnectionStep[]): StepToUndo[] {
  return Object.entries(job.boxes[boxId]?.steps ?? {}).flatMap(([key, mark]) => {
    if (!key.startsWith(`${gang}:connect:`)) return []
    const id = key.slice(`${gang}:`.length)
    const step = steps.find((one) => one.id === id)
    return step && stepDone(job, boxId, gang, step) ? [] : [{ id, text: mark.text, by: mark.by }]
  })
}

/** A step that a box's plan wants done at another box. */
export interface StepAtOtherBox {
  text: string
  state: 'open' | 'done' | 'undo'
  /** Who did it; null: nobody yet. */
  by: string | null
}
/** The gangs of a box, by number. */
export const gangsOf = (box: { gangs: number } | undefined): number[] => Array.from({ length: box?.gangs ?? 0 }, (_, index) => index + 1)
/** What a box's plan wants done at the other boxes of its group, what of it is done, and what was done for an earlier plan. */
export function stepsAtOtherBoxes(
  job: JobState,
  site: SiteState,
  fromBoxId: string,
  method: ConnectionMethod,
): { boxId: string; steps: StepAtOtherBox[] }[] {
  const ours = ({ id }: { id: string }) => id.startsWith(fromPrefix(fromBoxId))
  const fixtures = pointsOfBox(job, fromBoxId).flatMap(({ fixtureBoxId }) => fixtureBoxId ?? [])
  return [...new Set([...groupOf(job, fromBoxId), ...fixtures])]
    .filter((id) => id !== fromBoxId)
    .map((boxId) => ({
      boxId,
      steps: gangsOf(site.boxes[boxId]).flatMap((gang): StepAtOtherBox[] => {
        const steps = stepsFor(job, site, boxId, gang, method)
        return [
          ...stepsToUndo(job, boxId, gang, steps)
            .filter(ours)
            .map(({ text, by }): StepAtOtherBox => ({ text, state: 'undo', by })),
          ...steps.filter(ours).map((step): StepAtOtherBox => {
            const done = stepDone(job, boxId, gang, step)
            return { text: step.text, state: done ? 'done' : 'open', by: done?.by ?? null }
          }),
        ]
      }),
    }))
}

export function jobStatus(job: JobState): JobStatus {
  const visits = Object.values(job.visits)
  if (Object.values(job.callbacks).some((callback) => callback.status !== 'closed')) return 'callback'
  if (job.handedOverAt) return 'handedOver'
  if (visits.some((visit) => visit.status === 'onSite')) return 'onSite'
  if (visits.some((visit) => visit.status === 'planned')) return 'scheduled'
  return visits.some((visit) => visit.status === 'done') ? 'between' : 'toSchedule'
}

export interface JobCounts {
  points: number
  passed: number
  failed: number
  units: number
  openDefects: number
}

export function jobCounts(job: JobState, site: SiteState): JobCounts {
  const statuses = pointsInOrder(job).map((point) => pointStatus(job, site, point))
  return {
    points: statuses.length,
    passed: statuses.filter((status) => status === 'passed').length,
    failed: statuses.filter((status) => status === 'failed').length,
    units: currentUnits(job).length,
    openDefects: Object.values(job.defects).filter((defect) => defect.status === 'open').length,
  }
}
