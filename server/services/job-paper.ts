import { regionOf } from '../../core/units'
import { database, type JobRow } from '../database'
import { siteFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { readState } from './streams'

/** What a paper about a job is made of: who made it, its records, and how things are written there. */
export async function paperOfJob(row: JobRow) {
  const { models } = database()
  const [branch, company, job, site] = await Promise.all([
    models.branches.findByPk(row.branchId),
    models.companies.findByPk(row.companyId),
    readState('job', row.id),
    readState('site', row.siteId),
  ])
  return { branch: branch!, company: company!, job, site, region: regionOf({ ...branch!.get(), settings: rulesOf(branch!) }) }
}
/** The same of one that its household gets, with whose home it is. */
export async function paperOfHome(viewer: Viewer, row: JobRow) {
  const [siteRow, customer, paper] = await Promise.all([
    siteFor(viewer, row.siteId),
    database().models.customers.findByPk(row.customerId),
    paperOfJob(row),
  ])
  return { siteRow, customer: customer!, ...paper }
}
