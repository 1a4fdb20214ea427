import { wantsDevice } from '../job/guide'
import { boxesOfJob, currentUnits, gangsOf, pointsInOrder, unitAt } from '../job/progress'
import type { DeviceModel } from '../fit/device-schema'
import type { Callback, JobState, Visit } from '../job/state'
import { waitsForVisit } from '../job/words'
import { soldPoints, soldFor } from '../job/sale/sold'
import type { BoxState, SiteState } from '../site/state'
import { minutes } from '../plan/minutes'

/** What a visit is made of, as far as it takes time. */
export const workKinds = [
  'arrive',
  'box',
  'device',
  'companion',
  'module',
  'multiWay',
  'fixture',
  'pairing',
  'unknown',
  'diagnosis',
  'look',
  'handover',
  'beside',
] as const
export type WorkKind = (typeof workKinds)[number]
/** How many of each. */
export type Work = Partial<Record<WorkKind, number>>
export const workWords: Record<WorkKind, [one: string, many: string]> = {
  arrive: ['arriving', 'arriving'],
  box: ['box to open and prove', 'boxes to open and prove'],
  device: ['device on the wall', 'devices on the wall'],
  companion: ['companion', 'companions'],
  module: ['module', 'modules'],
  multiWay: ['light switched from several places', 'lights switched from several places'],
  fixture: ['fixture, on a ladder', 'fixtures, on a ladder'],
  pairing: ['device to join', 'devices to join'],
  unknown: ['box nobody looked into', 'boxes nobody looked into'],
  diagnosis: ['fault to find', 'faults to find'],
  look: ['box to look at', 'boxes to look at'],
  handover: ['handover', 'handovers'],
  // Counted in minutes, as they were agreed.
  beside: ['minute of other work that was agreed', 'minutes of other work that was agreed'],
}

const kindOf = (model: Pick<DeviceModel, 'kind' | 'gangsWide'> | undefined): 'device' | 'companion' | 'module' =>
  !model ? 'device' : model.kind === 'companion' ? 'companion' : model.gangsWide === 0 ? 'module' : 'device'

class Count {
  readonly work: Work = {}
  add(kind: WorkKind, many = 1): void {
    if (many > 0) this.work[kind] = (this.work[kind] ?? 0) + many
  }
}

/** Lights that are switched from several places, one of them in these boxes. */
const multiWayAt = (job: JobState, boxes: ReadonlySet<string>): number =>
  pointsInOrder(job).filter(({ controls }) => controls.length > 1 && controls.some(({ boxId }) => boxes.has(boxId))).length

/** Of a visit for a callback of which nobody asked on the telephone, minutes. Common practice, no source. */
export const diagnosisMinutes = 45
const openCallbacks = (job: JobState) => Object.values(job.callbacks).filter(waitsForVisit)
/** How much there is to look for and mend, against a callback of which nothing is known: as the telephone has told. */
const diagnosisOf = (callbacks: readonly Callback[]): number => {
  const told = callbacks.map(({ call }) => call?.minutes || diagnosisMinutes)
  return (told.length ? Math.max(diagnosisMinutes / 3, ...told) : diagnosisMinutes) / diagnosisMinutes
}

/** What a visit of this kind would do on a job, by what is known now. */
export function workLeft(job: JobState, site: SiteState, kind: Visit['kind']): Work {
  const count = new Count()
  count.add('arrive')
  const boxes = boxesOfJob(job, site)
  if (kind === 'survey') {
    count.add('look', boxes.length)
    return count.work
  }
  if (kind === 'callback') {
    const callbacks = openCallbacks(job)
    count.add('diagnosis', diagnosisOf(callbacks))
    if (callbacks.every(({ call }) => call?.licence ?? true)) count.add('box')
    return count.work
  }
  const waiting = new Set<string>()
  for (const box of boxes) if (countBox(count, job, site, box)) waiting.add(box.id)
  count.add('multiWay', multiWayAt(job, waiting))
  if (!job.handedOverAt && pointsInOrder(job).length) count.add('handover')
  count.add('beside', Math.round(besideDevices(job, site)))
  return count.work
}

/** Gangs of a box that a device is still to go into. */
export const gangsToDo = (job: JobState, box: BoxState): number[] =>
  gangsOf(box).filter((gang) => (job.boxes[box.id]?.devices[gang] || wantsDevice(job, box.id, gang)) && !unitAt(job, box.id, gang))
/** What is still to be done in a box. @returns whether there is anything */
function countBox(count: Count, job: JobState, site: SiteState, box: BoxState): boolean {
  const gangs = gangsToDo(job, box)
  if (!gangs.length) return false
  const survey = site.surveys[box.id]
  count.add('box')
  if (survey?.kind === 'fixture') count.add('fixture')
  if (survey?.looked !== 'inside' && !box.conductors.length) count.add('unknown')
  for (const gang of gangs) {
    const model = job.boxes[box.id]?.devices[gang]?.model
    count.add(kindOf(model))
    if (model?.radio !== 'none') count.add('pairing')
  }
  return true
}
/** The same of one box alone. */
export function workAtBox(job: JobState, site: SiteState, box: BoxState): Work {
  const count = new Count()
  // One that is open is closed at least.
  if (!countBox(count, job, site, box)) count.add('box')
  return count.work
}

/** Minutes of what was agreed beside devices: lamps, plug-in modules, a neutral to be pulled. */
function besideDevices(job: JobState, site: SiteState): number {
  const open = soldPoints(job, site).filter(({ stands }) => stands === 'sold' || stands === 'changed')
  const solutions = new Set(open.flatMap(({ pointId }) => soldFor(job, pointId)?.solution ?? []))
  return [...solutions].reduce(
    (sum, { kind, devices, minutes: whole }) => sum + (devices.length === 0 ? whole : kind === 'pullNeutral' ? minutes.pullNeutral : 0),
    0,
  )
}

/** What a finished visit has done, by what was recorded while it ran. */
export function workDone(job: JobState, site: SiteState, visit: Visit): Work {
  const count = new Count()
  count.add('arrive')
  const during = (at: string | null) =>
    at !== null && visit.arrivedAt !== null && visit.finishedAt !== null && at >= visit.arrivedAt && at <= visit.finishedAt
  if (visit.kind === 'callback')
    count.add('diagnosis', diagnosisOf([job.callbacks[visit.callbackId ?? '']].filter((one) => one !== undefined)))
  if (visit.kind === 'survey') count.add('look', boxesOfJob(job, site).length)
  const units = currentUnits(job).filter(({ installedAt }) => during(installedAt))
  const boxes = new Set(units.map(({ boxId }) => boxId))
  count.add('box', boxes.size)
  count.add('fixture', [...boxes].filter((id) => site.surveys[id]?.kind === 'fixture').length)
  for (const { model, pairing } of units) {
    count.add(kindOf(model))
    if (pairing) count.add('pairing')
  }
  count.add('multiWay', multiWayAt(job, boxes))
  if (during(job.handedOverAt)) count.add('handover')
  return count.work
}
