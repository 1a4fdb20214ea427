import type { FunctionalCheck } from '../commission'
import type { ConnectionMethod, ConnectionStep } from '../connect'
import { missingRoles } from '../connect'
import {
  boxName,
  boxesBehind,
  isEnergised,
  mainBreakers,
  nextPowerStep,
  plateIsOff,
  sentence,
  stepAfterClosing,
  tagsOn,
  type Asker,
  type BoxState,
  type Vantage,
  type SiteState,
} from '../site'
import { unknownsOf } from '../survey/unknowns'
import { counted } from '../units/counted'
import { lowerFirst } from '../wiring/plan/other-location-words'
import { handoverChecklist } from './handover-list'
import {
  boxesOfJob,
  checksFor,
  gangsOf,
  groupOf,
  inDoubtAt,
  mainModel,
  needsPlan,
  planAtOtherBoxOf,
  planIsRed,
  pointsInOrder,
  pointStatus,
  rolesIn,
  stepDone,
  stepsFor,
  stepsFromOtherBoxes,
  stepsToUndo,
  testResults,
  unitAt,
  type StepToUndo,
} from './progress'
import type { LightPoint } from './parts.schema'
import type { JobState, Visit } from './state'
import { waitsForVisit } from './words'

/** What comes next: at one box under its proof, and on the whole job. One thing at a time, and never to undo what was just done. */

/** The next piece of work in a box that may be touched. */
export type WorkStep =
  | { kind: 'doubt' }
  | { kind: 'undo'; gang: number; step: StepToUndo }
  | { kind: 'device'; gang: number }
  /** At the wiring bench: what each conductor is, or which wiring is laid. */
  | { kind: 'bench'; title: string; why: string }
  | { kind: 'connect'; gang: number; step: ConnectionStep; done: number; of: number }
  | { kind: 'unit'; gang: number }
  | { kind: 'close' }

/**
 * Does a device have to be chosen for a gang? Not where nothing of the job is switched, where the old switch stays, or where
 * the load of each of its points is carried at another place.
 */
export function wantsDevice(job: JobState, boxId: string, gang: number): boolean {
  const work = job.boxes[boxId]
  if (work?.devices[gang] || work?.oldStays?.includes(gang)) return false
  // A relay at a fixture is a choice; what is switched from here has to be carried somewhere.
  const isHere = (at: { boxId: string; gang: number }) => at.boxId === boxId && at.gang === gang
  return pointsInOrder(job).some((point) => point.controls.some(isHere) && !mainModel(job, point))
}

/**
 * What is next in a box that is open and proven dead for whoever asks.
 * @param later gangs whose serial and code are put off: it is asked for at closing again
 */
export function nextWorkStep(
  job: JobState,
  site: SiteState,
  boxId: string,
  method: ConnectionMethod,
  later: ReadonlySet<number> = new Set(),
): WorkStep {
  const box = site.boxes[boxId]!
  const work = job.boxes[boxId]
  if (inDoubtAt(job, boxId)) return { kind: 'doubt' }
  const gangs = gangsOf(box).map((gang) => ({ gang, steps: stepsFor(job, site, boxId, gang, method) }))
  for (const { gang, steps } of gangs) {
    const [undo] = stepsToUndo(job, boxId, gang, steps)
    if (undo) return { kind: 'undo', gang, step: undo }
  }
  const without = gangs.find(({ gang }) => wantsDevice(job, boxId, gang))
  if (without) return { kind: 'device', gang: without.gang }
  const chosen = gangs.filter(({ gang }) => work?.devices[gang] && !unitAt(job, boxId, gang))
  const laid = Boolean(work?.wiring?.plan) && !planIsRed(job, boxId)
  const follows = planAtOtherBoxOf(job, boxId)
  if (chosen.length && !laid && !(follows && box.gangs === 1)) {
    if (planIsRed(job, boxId))
      return { kind: 'bench', title: 'Lay the wiring otherwise', why: 'Something stands against the wiring that was laid.' }
    const missing = [...new Set(chosen.flatMap(({ gang }) => missingRoles(work!.devices[gang]!.model, rolesIn(job, boxId))))]
    if (missing.length)
      return { kind: 'bench', title: 'Find out what each conductor is', why: `Not established yet: ${missing.join(', ')}.` }
    if (needsPlan(job, site, boxId))
      return { kind: 'bench', title: 'Lay the wiring', why: 'With several gangs, feeds or places the steps follow from it.' }
  }
  const open = gangs.flatMap(({ gang, steps }) => {
    const left = steps.filter((step) => !stepDone(job, boxId, gang, step))
    const done = steps.length - left.length
    return left.map((step): Extract<WorkStep, { kind: 'connect' }> => ({ kind: 'connect', gang, step, done, of: steps.length }))
  })
  const connect = open.find(({ step }) => step.phase !== 'close')
  if (connect) return connect
  // The label is read while the device is still out.
  const unrecorded = chosen.find(({ gang }) => !later.has(gang))
  if (unrecorded) return { kind: 'unit', gang: unrecorded.gang }
  return open[0] ?? { kind: 'close' }
}

/** Closed up, and something has still to be done inside. */
function isToDo(job: JobState, site: SiteState, box: BoxState): boolean {
  const work = job.boxes[box.id]
  return gangsOf(box).some(
    (gang) =>
      wantsDevice(job, box.id, gang) ||
      // Closed without its serial it is found at the handover, with the plate on.
      (work?.devices[gang] && !unitAt(job, box.id, gang) && !box.closedBy) ||
      stepsFromOtherBoxes(job, box.id, gang).some(({ id }) => !work?.steps[`${gang}:${id}`]),
  )
}

export type Guide = { title: string; why: string } & (
  | { kind: 'arrive' | 'leave'; visitId: string }
  | { kind: 'callback'; callbackId: string }
  /** Work at a box, or the power after it: `after` is done wherever one stands. */
  | { kind: 'box' | 'after'; boxId: string }
  | { kind: 'tests' | 'handover' | 'wait' | 'survey' }
)

/** Is every breaker closed that feeds the boxes a point is switched from? Of an unknown feed only the mains are known to be behind it. */
export const hasPower = (site: SiteState, point: LightPoint): boolean =>
  point.controls.every(({ boxId }) => {
    const box = site.boxes[boxId]
    const feeds = (box?.breakerIds ?? []).flatMap((id) => site.breakers[id] ?? [])
    return [...feeds, ...mainBreakers(site)].every((breaker) => isEnergised(site, breaker))
  })

/** The next functional check that nobody has answered, of a point that has power and of which nothing has failed. */
export function nextCheck(
  job: JobState,
  site: SiteState,
): { point: LightPoint; check: FunctionalCheck; number: number; of: number } | null {
  for (const point of pointsInOrder(job)) {
    if (pointStatus(job, site, point) === 'failed' || !hasPower(site, point)) continue
    const results = testResults(job, site, point)
    const checks = checksFor(job, site, point)
    const index = checks.findIndex((check) => !results[check.id])
    if (index >= 0) return { point, check: checks[index]!, number: index + 1, of: checks.length }
  }
  return null
}

/** The visit a person is on: the one that goes on, else the next that is planned. */
export function visitOf(job: JobState, personId: string): Visit | null {
  const theirs = Object.values(job.visits)
    .filter((visit) => visit.personIds.includes(personId))
    .sort((a, b) => a.startsAt.localeCompare(b.startsAt))
  return theirs.find(({ status }) => status === 'onSite') ?? theirs.find(({ status }) => status === 'planned') ?? null
}

/** The one thing that is next on a job for this person; null for whoever is on no visit of it. */
export function guideJob(job: JobState, site: SiteState, asker: Asker, vantage: Vantage): Guide | null {
  const visit = visitOf(job, asker.personId)
  if (!visit) return null
  if (visit.status === 'planned')
    return {
      kind: 'arrive',
      visitId: visit.id,
      title: 'Say that you have arrived',
      why: 'Then the crew and the office know where you are.',
    }
  const boxes = site.roomOrder.flatMap((roomId) => boxesOfJob(job, site).filter((box) => box.roomId === roomId))
  const proofOf = (box: BoxState) => {
    const proof = box.proofId ? site.proofs[box.proofId] : undefined
    return proof && proof.status !== 'void' ? proof : null
  }
  const at = (box: BoxState): Guide => {
    const step = nextPowerStep(site, box.id, asker, vantage)
    return {
      kind: 'box',
      boxId: box.id,
      title: `${sentence(boxName(site, box))}: ${lowerFirst(step.title)}`,
      why: step.kind === 'work' ? '' : step.why,
    }
  }
  const open = boxes.filter(plateIsOff)
  /** In one's own hands: proven or relied on, opened, or left open by somebody who is not here any more. */
  const isMine = (box: BoxState) => {
    const proof = proofOf(box)
    const opener = box.openedBy?.personId
    return proof
      ? [proof, ...proof.witnesses].some(({ personId }) => personId === asker.personId)
      : !opener || opener === asker.personId || !site.onSite[opener]
  }
  const mine = open.find(isMine)
  if (mine) return at(mine)
  if (visit.kind === 'survey' || (boxes.length === 0 && !job.handedOverAt)) {
    const left = boxes.reduce((sum, box) => sum + unknownsOf(job, site, box).length, 0)
    if (left > 0 || boxes.length === 0)
      return {
        kind: 'survey',
        title: 'Survey the home',
        why: boxes.length === 0 ? 'No box is on its list yet.' : `${counted(left, 'thing')} not looked at yet.`,
      }
    return { kind: 'leave', visitId: visit.id, title: 'The survey is complete', why: 'Plates back on, covers counted? Then end the visit.' }
  }

  const callback = Object.values(job.callbacks).findLast(waitsForVisit)
  const toDo = boxes.filter((box) => !plateIsOff(box) && isToDo(job, site, box))
  const powered = boxes.flatMap((box): Guide[] => {
    if (plateIsOff(box) || toDo.includes(box)) return []
    const step = stepAfterClosing(site, box.id, asker)
    if (step.kind === 'test' || step.kind === 'wait') return []
    // A box on the same breaker comes first: no breaker is closed to be opened again.
    const sharing = step.breakerId ? boxesBehind(site, step.breakerId) : []
    if (step.kind !== 'answer' && toDo.some((one) => sharing.some(({ id }) => id === one.id))) return []
    return [{ kind: 'after', boxId: box.id, title: step.title, why: step.why }]
  })
  if (powered[0]) return powered[0]
  const tagged = (box: BoxState) =>
    box.breakerIds.some((id) => tagsOn(site, id).some((tag) => tag.personId === asker.personId && !tag.company))
  const next = toDo.find(tagged) ?? toDo[0]
  if (next) return at(next)
  if (callback) {
    const unit = job.units[callback.unitId]
    return { kind: 'callback', callbackId: callback.id, title: `Callback: ${unit?.name || unit?.serial || 'a device'}`, why: callback.what }
  }
  if (open[0])
    return {
      kind: 'wait',
      title: `${sentence(boxName(site, open[0]))} is still open`,
      why: `${proofOf(open[0])?.name ?? open[0].openedBy?.name ?? 'A crew mate'} is working on it. Nothing else waits for you.`,
    }
  const untested = nextCheck(job, site)
  if (untested) return { kind: 'tests', title: `Test ${untested.point.name}`, why: 'From every place, in every position.' }
  const dark = pointsInOrder(job).find((point) => pointStatus(job, site, point) !== 'passed' && !hasPower(site, point))
  if (dark) return { kind: 'wait', title: `${dark.name} has no power yet`, why: 'Its {breaker} is open: look at the {panel}.' }
  if (job.handedOverAt)
    return {
      kind: 'leave',
      visitId: visit.id,
      title: 'Everything is handed over',
      why: 'Tools, testers and covers counted? Then end the visit.',
    }
  const item = handoverChecklist(job, site).find(({ done }) => !done)
  return item && ['tests', 'pairing'].includes(item.id)
    ? { kind: 'tests', title: item.text, why: item.why }
    : { kind: 'handover', title: item?.text ?? 'The customer signs', why: item?.why ?? 'The list is done.' }
}

/** The box a crew goes to after this one: on its breakers first, so that no breaker is closed to be opened again. */
export function nextBoxOf(job: JobState, site: SiteState, boxId: string): BoxState | null {
  const feeds = site.boxes[boxId]?.breakerIds ?? []
  const others = feeds.flatMap((id) => boxesBehind(site, id)).filter((box) => box.id !== boxId && job.boxIds.includes(box.id))
  const group = groupOf(job, boxId)
  return (
    [...others.filter(({ id }) => group.includes(id)), ...others].find((box) => box.closure === 'closed' && isToDo(job, site, box)) ?? null
  )
}
