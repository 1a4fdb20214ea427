import { col, literal, Op, where, type WhereOptions } from 'sequelize'
import type { z } from 'zod'
import type { jobs, CallbackLine, JobLine, SiteLine, UnitLine } from '../../core/protocol'
import { database, joined, type CallbackRow, type CustomerRow, type JobRow, type SiteRow, type UnitRow } from '../database'
import { isOffice, ownRows, type Viewer } from './access'

/** Found anywhere in one of these columns; what a person typed counts as it is, its own % and _ too. */
const found = (columns: string[], search: string): WhereOptions => {
  const pattern = `%${search.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`
  return { [Op.or]: columns.map((column) => where(col(column), Op.like, pattern)) }
}
const wordsOf = (search: string | undefined) => (search ?? '').trim()

type JobFilter = z.output<typeof jobs.listJobs.query>
/** Jobs the viewer may see, newest first; search looks at number, title, site, address and customer. */
export async function listJobs(viewer: Viewer, { branchId, status, siteId, search }: JobFilter): Promise<JobLine[]> {
  const branch = isOffice(viewer) ? branchId : viewer.branchId
  const words = wordsOf(search)
  const rows = await joined<JobRow & { nextVisit: Date | null; site: SiteRow; customer: CustomerRow }>(database().models.jobs, {
    where: {
      companyId: viewer.companyId,
      ...(status ? { status } : {}),
      ...(siteId ? { siteId } : {}),
      [Op.and]: [
        ...(branch ? [{ [Op.or]: [{ branchId: branch }, { id: viewer.guestOf }] }] : []),
        ...(words ? [found(['jobs.title', 'site.name', 'site.address', 'customer.name', 'jobs.number'], words)] : []),
      ],
    },
    attributes: { include: [[nextVisit, 'nextVisit']] },
    include: ['site', 'customer'],
    order: [['number', 'DESC']],
    limit: 300,
  })
  return rows.map(({ site, customer, ...job }) => ({
    id: job.id,
    number: job.number,
    title: job.title,
    status: job.status,
    siteId: job.siteId,
    siteName: site.name,
    address: site.address,
    branchId: job.branchId,
    customer: customer.name,
    points: job.points,
    passed: job.passed,
    failed: job.failed,
    openDefects: job.openDefects,
    nextVisit: job.nextVisit?.toISOString() ?? null,
  }))
}
// One value per row of another table: Sequelize has no words for it.
const nextVisit = literal("(SELECT MIN(v.starts_at) FROM visits v WHERE v.job_id = jobs.id AND v.status IN ('planned', 'onSite'))")

export async function listSites(viewer: Viewer): Promise<SiteLine[]> {
  return database().models.sites.findAll({
    where: { ...ownRows(viewer), erasedAt: null },
    attributes: ['id', 'name', 'address', 'branchId'],
    order: [['name', 'ASC']],
    raw: true,
  })
}

/** Callbacks, open ones first, of them what is dangerous, then the newest. */
export async function listCallbacks(viewer: Viewer, branchId?: string): Promise<CallbackLine[]> {
  const branch = isOffice(viewer) ? branchId : viewer.branchId
  const rows = await joined<CallbackRow & { visitAt: Date | null; job: JobRow; site: SiteRow; unit: UnitRow }>(
    database().models.callbacks,
    {
      where: { companyId: viewer.companyId, ...(branch ? { branchId: branch } : {}) },
      attributes: { include: [[plannedVisit, 'visitAt']] },
      include: ['job', 'site', 'unit'],
      order: [
        [literal("callbacks.status = 'closed'"), 'ASC'],
        [literal("callbacks.danger AND callbacks.status <> 'closed'"), 'DESC'],
        ['openedAt', 'DESC'],
      ],
      limit: 200,
    },
  )
  return rows.map(({ job, site, unit, ...callback }) => ({
    id: callback.id,
    jobId: callback.jobId,
    unitId: callback.unitId,
    what: callback.what,
    status: callback.status,
    causeKind: callback.causeKind,
    remedy: callback.remedy,
    openedAt: callback.openedAt.toISOString(),
    closedAt: callback.closedAt?.toISOString() ?? null,
    jobTitle: job.title,
    jobNumber: job.number,
    siteName: site.name,
    unitName: unit.name,
    serial: unit.serial,
    branchId: callback.branchId,
    visitAt: callback.visitAt?.toISOString() ?? null,
    causeId: callback.causeId,
    cause: callback.cause,
    payer: callback.payer,
    callBackOn: callback.callBackOn,
    danger: Boolean(callback.danger),
  }))
}
const plannedVisit = literal("(SELECT MAX(v.starts_at) FROM visits v WHERE v.callback_id = callbacks.id AND v.status <> 'cancelled')")

const unitColumns = ['units.serial', 'units.name', 'units.place', 'site.name', 'site.address', 'job->customer.name', 'job->customer.phone']
/** Installed units by any words of serial, name, home, street, customer or room: where a callback starts. */
export async function findUnits(viewer: Viewer, search: string): Promise<UnitLine[]> {
  const words = wordsOf(search).split(/\s+/).filter(Boolean).slice(0, 6)
  const rows = await joined<UnitRow & { site: SiteRow; job: { customer: CustomerRow } }>(database().models.units, {
    where: {
      ...ownRows(viewer),
      removedAt: null,
      [Op.and]: words.map((word) => found(unitColumns, word)),
    },
    include: ['site', { association: 'job', include: ['customer'] }],
    order: [['installedAt', 'DESC']],
    limit: 30,
  })
  return rows.map(({ site, job, ...unit }) => ({
    id: unit.id,
    jobId: unit.jobId,
    serial: unit.serial,
    name: unit.name,
    model: unit.model,
    place: unit.place,
    siteName: site.name,
    address: site.address,
    customer: job.customer.name,
    installedAt: unit.installedAt.toISOString(),
  }))
}
