import { judgeLinkCheck, wallCheck, type LinkAnswer, type LinkWork } from '../../link'
import type { LightPoint } from '../parts.schema'
import type { JobState, Unit } from '../state'
import { linkChecksOf, loadOn } from './link-checks-of'
import { channelOf, linkOf } from './link-of'

type Answered = Extract<LinkAnswer, { did: 'check' }>
/** Points of a device that the link reaches, each by the channel that carries it; one that is carried twice, once. */
export function pointsLinked(job: JobState, unit: Unit): LightPoint[] {
  if (!linkOf(job).units[unit.id]) return []
  const ids = job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []
  return ids.flatMap((id) => (job.points[id] && channelOf(job, unit.id, id) ? [job.points[id]] : []))
}
/** A load that starts by itself may hurt whoever is at it: somebody says first that everybody is clear. */
export const moves = (job: JobState, unit: Unit): boolean =>
  pointsLinked(job, unit).some(({ load, mustRun }) => load.technology === 'fan' || load.technology === 'motor' || mustRun)
/** The point whose meter is read for long: that which must run, else the first that is metered. */
export const meteredPoint = (job: JobState, unit: Unit): LightPoint | null => {
  const metered = pointsLinked(job, unit).filter(({ id }) => channelOf(job, unit.id, id)!.meter)
  return metered.find(({ mustRun }) => mustRun) ?? metered[0] ?? null
}
/** So long, and so often: enough to try a line with seconds before it is set to hours. */
const traces = { seconds: 120, everySeconds: 3 }
const idIn = (pointId: string, checkId: string) => `${pointId}/${checkId}`

/** What is tried at a device, and what becomes of the answer. */
export const linkTasks = {
  /** By itself, or with somebody at the wall. */
  work(job: JobState, unit: Unit, wall: boolean): Extract<LinkWork, { do: 'check' }> | null {
    const steps = pointsLinked(job, unit).flatMap((point) =>
      linkChecksOf(job, unit, point)
        .filter(({ id }) => (id === wallCheck) === wall)
        .map(({ id, step }) => ({ checkId: idIn(point.id, id), endpoint: channelOf(job, unit.id, point.id)!.endpoint, ...step })),
    )
    return steps.length ? { do: 'check', steps } : null
  },
  trace(job: JobState, unit: Unit): Extract<LinkWork, { do: 'trace' }> | null {
    const point = meteredPoint(job, unit)
    return point && { do: 'trace', endpoint: channelOf(job, unit.id, point.id)!.endpoint, ...traces }
  },
  results(job: JobState, unit: Unit, { results }: Answered) {
    return results.flatMap(({ checkId, reading, ms }) => {
      const [pointId, id] = checkId.split('/')
      const point = job.points[pointId!]
      const check = point && linkChecksOf(job, unit, point).find((one) => one.id === id)
      if (!check) return []
      const { pass, said } = judgeLinkCheck(check, reading, ms, loadOn(job, unit, point))
      return [{ pointId: point.id, checkId: check.id, result: pass ? ('pass' as const) : ('fail' as const), measured: said }]
    })
  },
}
