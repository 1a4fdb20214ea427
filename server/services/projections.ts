import type { Transaction } from 'sequelize'
import { jobCounts, jobStatus, type JobState } from '../../core/record'
import type { SiteState } from '../../core/safety'
import { database } from '../database'

/** Where a stream's rows belong. */
export interface Place {
  companyId: string
  branchId: string
}

const time = (iso: string | null) => (iso === null ? null : new Date(iso))

/** Rows of a job that follow from its record: written in the transaction that stores the events. */
export async function projectJob(job: JobState, site: SiteState, place: Place, transaction: Transaction): Promise<void> {
  const { models } = database()
  const base = { companyId: place.companyId, branchId: place.branchId, jobId: job.jobId, siteId: job.siteId }
  const counts = jobCounts(job, site)
  await models.jobs.update({ status: jobStatus(job), points: counts.points, passed: counts.passed, failed: counts.failed, openDefects: counts.openDefects }, { where: { id: job.jobId }, transaction })

  for (const visit of Object.values(job.visits)) {
    const { id, kind, status, callbackId } = visit
    await models.visits.upsert(
      { id, kind, status, callbackId, ...base, startsAt: new Date(visit.startsAt), endsAt: new Date(visit.endsAt), windowFrom: new Date(visit.windowFrom), windowTo: new Date(visit.windowTo), arrivedAt: time(visit.arrivedAt), finishedAt: time(visit.finishedAt) },
      { transaction },
    )
    await models.visitPeople.destroy({ where: { visitId: id }, transaction })
    await models.visitPeople.bulkCreate(visit.personIds.map((personId, position) => ({ visitId: id, personId, position })), { transaction })
  }
  // No upsert here: it would overwrite whichever row has the same serial instead of failing on it.
  const known = new Set((await models.units.findAll({ where: { jobId: job.jobId }, attributes: ['id'], transaction, raw: true })).map((row) => row.id))
  for (const unit of Object.values(job.units)) {
    const { id, boxId, gang, serial, name, removedTo } = unit
    const row = { id, boxId, gang, serial, name, removedTo, ...base, model: `${unit.model.maker} ${unit.model.name}`, installedAt: new Date(unit.installedAt), removedAt: time(unit.removedAt) }
    if (known.has(id)) await models.units.update(row, { where: { id }, transaction })
    else await models.units.create(row, { transaction })
  }
  for (const callback of Object.values(job.callbacks)) {
    const { id, unitId, what, status, causeKind, remedy } = callback
    await models.callbacks.upsert({ id, unitId, what, status, causeKind, remedy, ...base, openedAt: new Date(callback.openedAt), closedAt: time(callback.closedAt) }, { transaction })
  }
}

/** Rows of a site that follow from its energy record. */
export async function projectSite(site: SiteState, place: Place, transaction: Transaction): Promise<void> {
  const { models } = database()
  await models.hangingTags.destroy({ where: { siteId: site.siteId }, transaction })
  await models.hangingTags.bulkCreate(
    Object.values(site.tags).map((tag) => ({
      id: tag.id, companyId: place.companyId, branchId: place.branchId, siteId: site.siteId, breakerId: tag.breakerId, breakerNumber: site.breakers[tag.breakerId]?.number ?? '',
      personId: tag.personId, initials: tag.initials, lockName: tag.lock, hungAt: new Date(tag.hungAt),
    })),
    { transaction },
  )
}

/** Which of a command's events can change a job's rows. */
export const jobRowTypes: ReadonlySet<string> = new Set([
  'jobOpened', 'visitScheduled', 'visitMoved', 'visitCancelled', 'arrived', 'visitFinished', 'deviceChosen', 'unitRecorded', 'pointTested', 'unitNamed', 'defectListed', 'defectSettled', 'handoverCompleted',
  'callbackOpened', 'callbackDiagnosed', 'unitReplaced', 'callbackClosed', 'handoverSigned',
])
export const siteRowTypes: ReadonlySet<string> = new Set(['tagHung', 'tagRemoved', 'tagOverridden'])
