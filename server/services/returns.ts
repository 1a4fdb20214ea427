import { literal, Op, QueryTypes } from 'sequelize'
import { writeRows } from '../../core/format/cells'
import { devicesOut, returnOutcomeWords, returnStageWords, fateWords, type OutDevice } from '../../core/job'
import type { OutDeviceLine } from '../../core/protocol'
import { storyOf, type StoryLine } from '../../core/triage'
import { database, joined, type DeviceOutRow, type JobRow, type SiteRow } from '../database'
import { branchFor, isOffice, jobFor, type Viewer } from './access'
import { notFound } from './errors'
import { readState } from './streams'

const mostListed = 200

const inBranch = (viewer: Viewer, branchId: string | undefined) => (isOffice(viewer) ? branchId : viewer.branchId)

/** Devices that are out: what is open by its day, then what was settled last. */
export async function listReturns(viewer: Viewer, branchId: string | undefined, limit = mostListed) {
  const branch = inBranch(viewer, branchId)
  if (branch) await branchFor(viewer, branch)
  const rows = await joined<DeviceOutRow & { job: JobRow; site: SiteRow }>(database().models.devicesOut, {
    where: { companyId: viewer.companyId, ...(branch ? { branchId: branch } : {}) },
    include: ['job', 'site'],
    order: [
      [literal("devices_out.stage = 'settled'"), 'ASC'],
      ['dueOn', 'ASC'],
      ['outAt', 'DESC'],
    ],
    limit: limit + 1,
  })
  const devices = rows.slice(0, limit).map(({ job, site, ...row }): OutDeviceLine => ({
    jobId: row.jobId,
    jobNumber: job.number,
    siteName: site.name,
    branchId: row.branchId,
    callbackId: row.callbackId,
    serial: row.serial,
    model: row.model,
    goes: row.goes,
    stage: row.stage,
    dueOn: row.dueOn,
    reference: row.reference,
    outcome: row.outcome,
    creditCents: row.creditCents,
    outAt: row.outAt.toISOString(),
  }))
  return { devices, more: Math.max(0, rows.length - limit) }
}

/** Whole days that a device was in the wall. */
export const daysInWall = (from: string, to: string) => Math.max(0, Math.floor((Date.parse(to) - Date.parse(from)) / 86_400_000))

/** The same with what each maker asks for, as a table. No home is named in it: a job number is enough for whoever has to look. */
export async function returnsCsv(viewer: Viewer, branchId: string | undefined): Promise<string> {
  const { devices } = await listReturns(viewer, branchId, 5000)
  const jobs = new Map(
    await Promise.all([...new Set(devices.map(({ jobId }) => jobId))].map(async (id) => [id, await readState('job', id)] as const)),
  )
  const rows = devices.flatMap((line) => {
    const job = jobs.get(line.jobId)!
    const out = devicesOut(job).findLast(({ serial }) => serial === line.serial)
    if (!out) return []
    const unit = out.unitId ? job.units[out.unitId] : undefined
    const callback = out.callbackId ? job.callbacks[out.callbackId] : undefined
    return [
      {
        maker: out.model.maker,
        model: out.model.name,
        serial: out.serial,
        job: line.jobNumber,
        goes: fateWords[out.goes],
        installed: unit?.installedAt.slice(0, 10) ?? '',
        out: out.outAt.slice(0, 10),
        days_in_wall: unit ? daysInWall(unit.installedAt, out.outAt) : '',
        symptom: callback?.what ?? out.shopNote,
        cause: callback?.cause ?? '',
        shown_by: callback?.confirmedBy ?? '',
        warranty: (out.unitId && job.warranties?.[out.unitId]?.number) || '',
        reference: out.reference,
        state: returnStageWords[out.stage],
        due: out.dueOn ?? '',
        outcome: out.outcome ? returnOutcomeWords[out.outcome] : '',
        credit: out.creditCents === null ? '' : (out.creditCents / 100).toFixed(2),
      },
    ]
  })
  const columns = [
    'maker',
    'model',
    'serial',
    'job',
    'goes',
    'installed',
    'out',
    'days_in_wall',
    'symptom',
    'cause',
    'shown_by',
    'warranty',
    'reference',
    'state',
    'due',
    'outcome',
    'credit',
  ]
  return `\ufeff${writeRows(columns, rows)}`
}

/** @throws ApiError 404 where no such device is out */
export async function outDevice(viewer: Viewer, jobId: string, serial: string): Promise<{ job: JobRow; out: OutDevice }> {
  const job = await jobFor(viewer, jobId)
  const out = devicesOut(await readState('job', job.id)).findLast((one) => one.serial === serial)
  if (!out) throw notFound('This device')
  return { job, out }
}

type Line = StoryLine & { jobId: string; jobNumber: number; siteName: string; serial: string; what: string }
/** What the same place, home and model were called back for before. */
export async function callbackStory(viewer: Viewer, jobId: string, callbackId: string) {
  const job = await jobFor(viewer, jobId)
  const state = await readState('job', job.id)
  const callback = state.callbacks[callbackId]
  const unit = callback && state.units[callback.unitId]
  if (!unit) throw notFound('This callback')
  const rows = await database().sequelize.query<Omit<Line, 'openedAt' | 'replaced'> & { openedAt: Date; replaced: number }>(
    `SELECT c.id AS callbackId, c.unit_id AS unitId, c.site_id AS siteId, u.box_id AS boxId, u.gang AS gang, u.model AS model, c.cause_id AS causeId, c.cause AS cause, c.status AS status,
      (u.removed_at IS NOT NULL) AS replaced, c.opened_at AS openedAt, c.job_id AS jobId, jobs.number AS jobNumber, sites.name AS siteName, u.serial AS serial, c.what AS what
      FROM callbacks c JOIN units u ON u.id = c.unit_id JOIN jobs ON jobs.id = c.job_id JOIN sites ON sites.id = c.site_id
      WHERE c.company_id = :companyId AND c.opened_at <= :now AND (c.site_id = :siteId OR (u.model = :model AND c.opened_at >= :since))
      ORDER BY c.opened_at DESC LIMIT 500`,
    {
      type: QueryTypes.SELECT,
      replacements: {
        companyId: job.companyId,
        siteId: job.siteId,
        model: `${unit.model.maker} ${unit.model.name}`,
        // As it stood when it was opened: an old callback’s story does not grow with what came after it.
        now: new Date(callback.openedAt),
        since: new Date(Date.parse(callback.openedAt) - 366 * 86_400_000),
      },
    },
  )
  const lines = rows.map((row): Line => ({
    ...row,
    gang: Number(row.gang),
    jobNumber: Number(row.jobNumber),
    replaced: Boolean(row.replaced),
    openedAt: new Date(row.openedAt).toISOString(),
  }))
  const own = lines.find((line) => line.callbackId === callbackId)
  if (!own) throw notFound('This callback')
  const { says, ...found } = storyOf(own, lines)
  // A technician of one branch does not read what was said in another’s homes; that there was something is said.
  const mine = await visibleJobs(viewer, lines)
  const shown = (list: Line[]) =>
    list
      .filter((line) => mine.has(line.jobId))
      .map(({ callbackId: id, jobId: of, jobNumber, siteName, serial, what, cause, status, openedAt }) => ({
        callbackId: id,
        jobId: of,
        jobNumber,
        siteName,
        serial,
        what,
        cause,
        status,
        openedAt,
      }))
  return { says, place: shown(found.place), home: shown(found.home), model: shown(found.model) }
}

async function visibleJobs(viewer: Viewer, lines: readonly Line[]): Promise<Set<string>> {
  const ids = [...new Set(lines.map(({ jobId }) => jobId))]
  if (isOffice(viewer)) return new Set(ids)
  const rows = await database().models.jobs.findAll({
    where: { id: ids, companyId: viewer.companyId, [Op.or]: [{ branchId: viewer.branchId }, { id: viewer.guestOf }] },
    attributes: ['id'],
    raw: true,
  })
  return new Set(rows.map(({ id }) => id))
}
