import { Op, QueryTypes, type WhereOptions } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { z } from 'zod'
import type { jobs, CallbackLine, DayVisit, JobLine, JobPage, SiteLine, UnitLine } from '../../core/protocol'
import { historyLine, type HistoryLine, type JobState } from '../../core/job'
import { database, type JobRow } from '../database'
import { isOffice, jobFor, peopleNames, siteFor, type Viewer } from './access'
import { ApiError, notFound } from './errors'
import { otherRecordsOf } from './home-links'
import { logSecretRead, unseal } from './secrets'
import { eventsAfter, readState } from './streams'

/** An empty list is none that could match. */
const guestIds = (viewer: Viewer) => (viewer.guestOf.length ? viewer.guestOf : [''])

/** What a person typed as a pattern: found anywhere, their own signs taken as they are. */
const likePattern = (search: string) => `%${search.trim().replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`

type JobFilter = z.output<typeof jobs.listJobs.query>
/** Jobs the viewer may see, newest first; search looks at number, title, site, address and customer. */
export async function listJobs(viewer: Viewer, filter: JobFilter): Promise<JobLine[]> {
  const branchId = isOffice(viewer) ? (filter.branchId ?? null) : viewer.branchId
  const search = filter.search?.trim() ? likePattern(filter.search) : null
  return database().sequelize.query<JobLine>(
    `SELECT j.id, j.number, j.title, j.status, j.site_id AS siteId, s.name AS siteName, s.address, j.branch_id AS branchId, c.name AS customer, j.points, j.passed, j.failed, j.open_defects AS openDefects,
       DATE_FORMAT((SELECT MIN(v.starts_at) FROM visits v WHERE v.job_id = j.id AND v.status IN ('planned', 'onSite')), '%Y-%m-%dT%H:%i:%s.000Z') AS nextVisit
     FROM jobs j JOIN sites s ON s.id = j.site_id JOIN customers c ON c.id = j.customer_id
     WHERE j.company_id = :companyId AND (:branchId IS NULL OR j.branch_id = :branchId OR j.id IN (:guestOf)) AND (:status IS NULL OR j.status = :status) AND (:siteId IS NULL OR j.site_id = :siteId)
       AND (:search IS NULL OR j.title LIKE :search OR s.name LIKE :search OR s.address LIKE :search OR c.name LIKE :search OR CAST(j.number AS CHAR) LIKE :search)
     ORDER BY j.number DESC LIMIT 300`,
    {
      replacements: {
        companyId: viewer.companyId,
        branchId,
        status: filter.status ?? null,
        siteId: filter.siteId ?? null,
        search,
        guestOf: guestIds(viewer),
      },
      type: QueryTypes.SELECT,
    },
  )
}

export async function jobPage(viewer: Viewer, jobId: string): Promise<JobPage> {
  const job = await jobFor(viewer, jobId)
  const [site, customer, jobState, siteState] = await Promise.all([
    siteFor(viewer, job.siteId),
    database().models.customers.findByPk(job.customerId),
    readState('job', job.id),
    readState('site', job.siteId),
  ])
  return {
    job: { id: job.id, number: job.number, title: job.title, branchId: job.branchId, siteId: job.siteId },
    site: {
      id: site.id,
      name: site.name,
      address: site.address,
      yearBuilt: site.yearBuilt,
      hasDoorCode: site.doorCodeSealed !== null,
      otherRecords: await otherRecordsOf(site),
    },
    customer: { name: customer!.name, phone: customer!.phone, email: customer!.email },
    jobState: withoutSeals(jobState),
    siteState,
  }
}

/** Sealed codes stay on the server: only their endings leave it, and the whole code by its own, logged route. */
function withoutSeals(job: JobState): JobState {
  const units = Object.fromEntries(Object.entries(job.units).map(([id, unit]) => [id, { ...unit, code: { ...unit.code, sealed: null } }]))
  return { ...job, units }
}

/** Everything that happened on the job and, since it was opened, to the power of its site: newest first. */
export async function jobHistory(viewer: Viewer, jobId: string): Promise<{ lines: HistoryLine[] }> {
  const job = await jobFor(viewer, jobId)
  const [jobState, siteState, names, jobEvents, siteEvents] = await Promise.all([
    readState('job', job.id),
    readState('site', job.siteId),
    peopleNames(viewer.companyId),
    eventsAfter(job.id, 0),
    eventsAfter(job.siteId, 0),
  ])
  const lines = [...jobEvents, ...siteEvents].map((event) => historyLine(event, jobState, siteState, (id) => names.get(id) ?? 'somebody'))
  // Order by the server's time, then by seq within a stream: client clocks order nothing.
  lines.sort((a, b) => b.receivedAt.localeCompare(a.receivedAt) || b.stream.localeCompare(a.stream) || b.seq - a.seq)
  return { lines }
}

/** The whole record of a job as an open document. Sealed codes are left out. */
export async function exportJob(viewer: Viewer, jobId: string) {
  const job = await jobFor(viewer, jobId)
  const [jobEvents, siteEvents] = await Promise.all([eventsAfter(job.id, 0), eventsAfter(job.siteId, 0)])
  const strip = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(strip)
      : value && typeof value === 'object'
        ? Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, key === 'sealed' ? null : strip(inner)]))
        : value
  return {
    format: 'circuitry.record' as const,
    version: 1 as const,
    exportedAt: new Date().toISOString(),
    job: { id: job.id, number: job.number, title: job.title, siteId: job.siteId },
    jobEvents: strip(jobEvents),
    siteEvents: strip(siteEvents),
  }
}

export async function setupCodeOf(viewer: Viewer, jobId: string, unitId: string): Promise<{ code: string }> {
  const job = await jobFor(viewer, jobId)
  const unit = (await readState('job', job.id)).units[unitId]
  if (!unit?.code.sealed) throw notFound('This code')
  await logSecretRead(viewer, 'setupCode', unitId)
  return { code: unseal(unit.code.sealed) }
}

export async function doorCodeOf(viewer: Viewer, siteId: string): Promise<{ code: string }> {
  const site = await siteFor(viewer, siteId)
  if (!site.doorCodeSealed) throw notFound('This code')
  await logSecretRead(viewer, 'doorCode', siteId)
  return { code: unseal(site.doorCodeSealed) }
}

export async function listSites(viewer: Viewer): Promise<SiteLine[]> {
  const where: WhereOptions = isOffice(viewer)
    ? { companyId: viewer.companyId }
    : { companyId: viewer.companyId, branchId: viewer.branchId }
  return database().models.sites.findAll({ where, attributes: ['id', 'name', 'address', 'branchId'], order: [['name', 'ASC']], raw: true })
}

export async function listCallbacks(viewer: Viewer, branchId?: string): Promise<CallbackLine[]> {
  return database().sequelize.query<CallbackLine>(
    `SELECT k.id, k.job_id AS jobId, k.unit_id AS unitId, k.what, k.status, k.cause_kind AS causeKind, k.remedy, k.opened_at AS openedAt, k.closed_at AS closedAt, j.title AS jobTitle, j.number AS jobNumber, s.name AS siteName, u.name AS unitName, u.serial, k.branch_id AS branchId,
       DATE_FORMAT((SELECT MAX(v.starts_at) FROM visits v WHERE v.callback_id = k.id AND v.status <> 'cancelled'), '%Y-%m-%dT%H:%i:%s.000Z') AS visitAt
     FROM callbacks k JOIN jobs j ON j.id = k.job_id JOIN sites s ON s.id = k.site_id JOIN units u ON u.id = k.unit_id
     WHERE k.company_id = :companyId AND (:branchId IS NULL OR k.branch_id = :branchId) ORDER BY k.status = 'closed', k.opened_at DESC LIMIT 200`,
    {
      replacements: { companyId: viewer.companyId, branchId: isOffice(viewer) ? (branchId ?? null) : viewer.branchId },
      type: QueryTypes.SELECT,
    },
  )
}

/** Installed units by any words of serial, name, home, street, customer or room: where a callback starts. */
export async function findUnits(viewer: Viewer, search: string): Promise<UnitLine[]> {
  const words = search.trim().split(/\s+/).filter(Boolean).slice(0, 6)
  const found = words.map(
    (_, index) =>
      `AND (${['u.serial', 'u.name', 'u.place', 's.name', 's.address', 'c.name', 'c.phone'].map((column) => `${column} LIKE :word${index}`).join(' OR ')})`,
  )
  return database().sequelize.query<UnitLine>(
    `SELECT u.id, u.job_id AS jobId, u.serial, u.name, u.model, u.place, s.name AS siteName, s.address, c.name AS customer, u.installed_at AS installedAt
     FROM units u JOIN sites s ON s.id = u.site_id JOIN jobs j ON j.id = u.job_id JOIN customers c ON c.id = j.customer_id
     WHERE u.company_id = :companyId AND u.removed_at IS NULL AND (:branchId IS NULL OR u.branch_id = :branchId) ${found.join(' ')} ORDER BY u.installed_at DESC LIMIT 30`,
    {
      replacements: {
        companyId: viewer.companyId,
        branchId: isOffice(viewer) ? null : viewer.branchId,
        ...Object.fromEntries(words.map((word, index) => [`word${index}`, likePattern(word)])),
      },
      type: QueryTypes.SELECT,
    },
  )
}

const photoLimitBytes = 8 * 1024 * 1024
export const photoTypes = ['image/jpeg', 'image/png', 'image/webp'] as const

/** Stores a picture. A picture sent again under the id its device gave it is stored once. */
export async function storePhoto(viewer: Viewer, job: JobRow, bytes: Buffer, mime: string, id: string = uuid()): Promise<{ id: string }> {
  const known = await database().models.photos.findByPk(id, { attributes: ['jobId', 'uploadedBy'], raw: true })
  if (known?.jobId === job.id && known.uploadedBy === viewer.personId) return { id }
  if (known) throw new ApiError(409, 'idTaken', 'Something else already has this id.')
  await database().models.photos.create({
    id,
    companyId: job.companyId,
    branchId: job.branchId,
    jobId: job.id,
    mime,
    bytes,
    uploadedBy: viewer.personId,
    uploadedAt: new Date(),
  })
  return { id }
}
export async function readPhoto(viewer: Viewer, photoId: string): Promise<{ mime: string; bytes: Buffer }> {
  const photo = await database().models.photos.findOne({ where: { id: photoId, companyId: viewer.companyId } })
  if (!photo) throw notFound('This picture')
  await jobFor(viewer, photo.jobId)
  return photo
}
export { photoLimitBytes }

/** Visits between two instants, with their crew and the tags hanging at their sites. */
export async function visitsBetween(
  viewer: Viewer,
  from: Date,
  to: Date,
  options: { branchId?: string; personId?: string },
): Promise<DayVisit[]> {
  const { models } = database()
  const branchId = isOffice(viewer) ? options.branchId : viewer.branchId
  const rows = await models.visits.findAll({
    where: {
      companyId: viewer.companyId,
      ...(branchId ? { [Op.or]: [{ branchId }, { jobId: guestIds(viewer) }] } : {}),
      startsAt: { [Op.lt]: to },
      endsAt: { [Op.gt]: from },
      status: { [Op.ne]: 'cancelled' },
    },
    order: [['startsAt', 'ASC']],
    raw: true,
  })
  const crews = rows.length
    ? await models.visitPeople.findAll({ where: { visitId: rows.map((row) => row.id) }, order: [['position', 'ASC']], raw: true })
    : []
  const jobs = rows.length ? await models.jobs.findAll({ where: { id: rows.map((row) => row.jobId) }, raw: true }) : []
  const sites = rows.length ? await models.sites.findAll({ where: { id: rows.map((row) => row.siteId) }, raw: true }) : []
  const tags = rows.length ? await models.hangingTags.findAll({ where: { siteId: rows.map((row) => row.siteId) }, raw: true }) : []
  return rows
    .map((row) => {
      const job = jobs.find((candidate) => candidate.id === row.jobId)!
      const site = sites.find((candidate) => candidate.id === row.siteId)!
      return {
        id: row.id,
        jobId: row.jobId,
        siteId: row.siteId,
        branchId: row.branchId,
        kind: row.kind,
        status: row.status,
        callbackId: row.callbackId,
        startsAt: row.startsAt.toISOString(),
        endsAt: row.endsAt.toISOString(),
        windowFrom: row.windowFrom.toISOString(),
        windowTo: row.windowTo.toISOString(),
        arrivedAt: row.arrivedAt?.toISOString() ?? null,
        finishedAt: row.finishedAt?.toISOString() ?? null,
        personIds: crews.filter((member) => member.visitId === row.id).map((member) => member.personId),
        jobTitle: job.title,
        jobNumber: job.number,
        jobStatus: job.status,
        siteName: site.name,
        address: site.address,
        points: job.points,
        passed: job.passed,
        failed: job.failed,
        tags: tags.filter((tag) => tag.siteId === row.siteId).map((tag) => tag.initials),
      }
    })
    .filter((visit) => !options.personId || visit.personIds.includes(options.personId))
}
