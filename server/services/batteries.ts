import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import type { BatteryLine } from '../../core/protocol'
import { database, joined, type JobRow, type SiteRow, type UnitRow } from '../database'
import { branchFor, type Viewer } from './access'

/** Said so long ahead: whoever is in the neighbourhood meanwhile takes one along. */
const daysAhead = 60
const mostListed = 100

/** Batteries of all homes that are due soon or were, the longest overdue first. */
export async function listBatteries(viewer: Viewer, branchId: string | undefined, now = new Date()) {
  if (branchId) await branchFor(viewer, branchId)
  const until = DateTime.fromJSDate(now, { zone: 'utc' }).plus({ days: daysAhead }).toISODate()!
  const { models } = database()
  const where = { companyId: viewer.companyId, ...(branchId ? { branchId } : {}), batteryDue: { [Op.lte]: until } }
  const rows = await joined<UnitRow & { job: JobRow; site: SiteRow }>(models.units, {
    where,
    include: ['job', { association: 'site', where: { erasedAt: null } }],
    order: [
      ['batteryDue', 'ASC'],
      ['id', 'ASC'],
    ],
    limit: mostListed + 1,
  })
  const customers = await models.customers.findAll({ where: { id: rows.map(({ job }) => job.customerId) }, raw: true })
  const customerOf = new Map(customers.map((customer) => [customer.id, customer]))
  const batteries = rows.slice(0, mostListed).map(({ job, site, ...unit }): BatteryLine => ({
    ...{ unitId: unit.id, jobId: job.id, jobNumber: job.number, branchId: unit.branchId, siteName: site.name },
    ...{ place: unit.place, name: unit.name, serial: unit.serial, model: unit.model, dueOn: unit.batteryDue! },
    customer: customerOf.get(job.customerId)?.name ?? '',
    phone: customerOf.get(job.customerId)?.phone ?? '',
  }))
  return { batteries, more: Math.max(0, rows.length - mostListed) }
}
