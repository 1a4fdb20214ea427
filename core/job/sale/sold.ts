import type { SiteState } from '../../site/state'
import { currentUnits, pointsInOrder, pointStatus } from '../progress'
import type { JobState, Sale } from '../state'
import type { SoldSolution } from './sell-plan.schema'

/** What was last agreed for a point. */
export function soldFor(job: JobState, pointId: string): { sale: Sale; solution: SoldSolution } | null {
  for (const sale of job.sales.toReversed()) {
    const solution = sale.solutions.find(({ pointIds }) => pointIds.includes(pointId))
    if (solution) return { sale, solution }
  }
  return null
}

export interface SoldPoint {
  pointId: string
  name: string
  what: string
  /** sold: to be done · done: as agreed · otherwise: something else is installed · changed: agreed anew, to be done. */
  stands: 'sold' | 'done' | 'otherwise' | 'changed' | 'stays'
  number: string
}
/** Of each point what was agreed and how it stands: sold, changed, done. What leaves nothing in a gang, such as lamps, is done once its tests pass. */
export function soldPoints(job: JobState, site: SiteState): SoldPoint[] {
  const units = currentUnits(job)
  return pointsInOrder(job).flatMap((point): SoldPoint[] => {
    const sold = soldFor(job, point.id)
    if (!sold) return []
    const { solution, sale } = sold
    const own = solution.devices.map((device) => ({
      device,
      unit: units.find(({ boxId, gang }) => boxId === device.boxId && gang === device.gang),
    }))
    const isDone = own.length ? own.every(({ unit }) => unit) : pointStatus(job, site, point) === 'passed'
    const stands =
      solution.kind === 'leave'
        ? 'stays'
        : own.some(({ device, unit }) => unit && unit.model.id !== device.modelId)
          ? 'otherwise'
          : isDone
            ? 'done'
            : sale.kind === 'change'
              ? 'changed'
              : 'sold'
    return [{ pointId: point.id, name: point.name, what: solution.what, stands, number: sale.number }]
  })
}
/** What was agreed in all, with taxes, cents; null: nothing yet. */
export const soldTotal = (job: JobState): number | null =>
  job.sales.length ? job.sales.reduce((sum, { totalCents }) => sum + totalCents, 0) : null
/** Points that something was agreed for and that are off the record of the job since: nobody does them, and they are paid. */
export const soldOffRecord = (job: JobState): string[] =>
  [...new Set(job.sales.flatMap(({ solutions }) => solutions.flatMap(({ pointIds }) => pointIds)))]
    .filter((id) => !job.pointOrder.includes(id) && soldFor(job, id)?.solution.kind !== 'leave')
    .map((id) => job.points[id]?.name ?? 'a point')
