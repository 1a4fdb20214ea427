import { Op } from 'sequelize'
import type { LearntDuration } from '../../core/protocol'
import {
  anybody,
  baseMinutes,
  bookedHours,
  durationOf,
  learn,
  workDone,
  workKinds,
  workLeft,
  type FinishedVisit,
} from '../../core/dispatch'
import type { Visit } from '../../core/job'
import { database } from '../database'
import { branchFor, jobFor, type Viewer } from './access'
import { readState } from './streams'

/** So many of the newest visits are looked at: what a crew did years ago says little of today. */
const newest = 120

/** What the visits of a branch took that were ended, with what was done in each. */
async function finishedVisits(companyId: string, branchId: string): Promise<FinishedVisit[]> {
  const rows = await database().models.visits.findAll({
    where: { companyId, branchId, status: 'done', arrivedAt: { [Op.ne]: null }, finishedAt: { [Op.ne]: null } },
    attributes: ['id', 'jobId', 'siteId'],
    order: [['finishedAt', 'DESC']],
    limit: newest,
    raw: true,
  })
  const jobs = new Map(
    await Promise.all(
      [...new Map(rows.map((row) => [row.jobId, row.siteId]))].map(
        async ([jobId, siteId]) => [jobId, { job: await readState('job', jobId), site: await readState('site', siteId) }] as const,
      ),
    ),
  )
  return rows.flatMap(({ id, jobId }): FinishedVisit[] => {
    const { job, site } = jobs.get(jobId)!
    const visit = job.visits[id]
    if (!visit?.arrivedAt || !visit.finishedAt) return []
    return [
      {
        work: workDone(job, site, visit),
        minutes: (Date.parse(visit.finishedAt) - Date.parse(visit.arrivedAt)) / 60_000,
        personIds: visit.personIds,
      },
    ]
  })
}

/** What the finished visits of a branch have taught. */
export const learnedIn = async (companyId: string, branchId: string) => learn(await finishedVisits(companyId, branchId))

export async function visitDuration(viewer: Viewer, jobId: string, { kind, people }: { kind: Visit['kind']; people: string[] }) {
  const row = await jobFor(viewer, jobId)
  const [job, site, learned] = await Promise.all([
    readState('job', row.id),
    readState('site', row.siteId),
    learnedIn(row.companyId, row.branchId),
  ])
  const duration = durationOf(workLeft(job, site, kind), learned, people)
  return { ...duration, hours: bookedHours(duration), visits: learned.visits, needs: job.needs ?? anybody }
}

export async function learntDurations(viewer: Viewer, branchId: string): Promise<{ visits: number; kinds: LearntDuration[] }> {
  await branchFor(viewer, branchId)
  const { kinds, seen, visits } = await learnedIn(viewer.companyId, branchId)
  return {
    visits,
    kinds: workKinds.flatMap((kind) =>
      seen[kind] && kind !== 'beside'
        ? [{ kind, seen: seen[kind], baseMinutes: baseMinutes[kind], minutes: baseMinutes[kind] * Math.max(0.3, 1 + kinds[kind]) }]
        : [],
    ),
  }
}
