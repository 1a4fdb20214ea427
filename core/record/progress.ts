import { functionalChecks, type FunctionalCheck } from '../commission'
import { connectionSteps, type ConnectionMethod, type ConnectionStep, type ConductorRole } from '../connect'
import type { DeviceModel } from '../fit'
import type { SiteState } from '../safety'
import { laidOn } from '../wiring/plan/connection-list'
import type { LightPoint } from './schema'
import type { JobState, Unit } from './state'

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

/** The model that carries a point's load: the chosen device that lists the point and is no companion. */
export function mainModel(job: JobState, point: LightPoint): DeviceModel | null {
  for (const control of point.controls) {
    const device = job.boxes[control.boxId]?.devices[control.gang]
    if (device && device.model.kind !== 'companion' && device.pointIds.includes(point.id)) return device.model
  }
  return null
}

export function checksFor(job: JobState, site: SiteState, point: LightPoint): FunctionalCheck[] {
  const locations = point.controls.map((control) => ({ ...control, name: site.boxes[control.boxId]?.name ?? 'box' }))
  return functionalChecks(point.load, locations, mainModel(job, point))
}

/** failed when any check's newest result is a fail; passed when all pass. */
export function pointStatus(job: JobState, site: SiteState, point: LightPoint): PointStatus {
  const results = job.tests[point.id] ?? {}
  const checks = checksFor(job, site, point)
  if (checks.some((check) => results[check.id]?.result === 'fail')) return 'failed'
  const passed = checks.filter((check) => results[check.id]?.result === 'pass').length
  return passed === checks.length ? 'passed' : passed > 0 ? 'partial' : 'untested'
}

export function pointsInOrder(job: JobState): LightPoint[] {
  return job.pointOrder.flatMap((id) => job.points[id] ?? [])
}

/** Points that are switched from a box, in walk order. */
export const pointsOfBox = (job: JobState, boxId: string): LightPoint[] =>
  pointsInOrder(job).filter((point) => point.controls.some((control) => control.boxId === boxId))

export function currentUnits(job: JobState): Unit[] {
  return Object.values(job.units).filter((unit) => unit.removedAt === null)
}

export function unitAt(job: JobState, boxId: string, gang: number): Unit | null {
  return currentUnits(job).find((unit) => unit.boxId === boxId && unit.gang === gang) ?? null
}

export function rolesIn(job: JobState, boxId: string): Record<string, ConductorRole> {
  return Object.fromEntries(Object.entries(job.boxes[boxId]?.roles ?? {}).map(([letter, known]) => [letter, known.role]))
}

export function stepsFor(job: JobState, boxId: string, gang: number, method: ConnectionMethod): ConnectionStep[] {
  const device = job.boxes[boxId]?.devices[gang]
  if (!device) return []
  const multiWay = device.pointIds.some((id) => (job.points[id]?.controls.length ?? 1) > 1)
  const plan = job.boxes[boxId]?.wiring?.plan
  return connectionSteps(device.model, rolesIn(job, boxId), method, multiWay, plan ? laidOn(plan, gang) : undefined)
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
