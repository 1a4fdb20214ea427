import type { Transaction } from 'sequelize'
import { database } from '../database'
import { rulesOf } from './branch-rules'
import { wasErased } from './errors'

/**
 * A job with its records locked, in the order in which commands lock them: what is made and decided for one job is so one after
 * the other, and nothing of the record changes meanwhile.
 * @throws ApiError 409 where its customer was erased
 */
export async function lockedJob(jobId: string, transaction: Transaction) {
  const { models } = database()
  const job = (await models.jobs.findByPk(jobId, { transaction }))!
  const locked = await models.streams.findAll({
    where: { id: [job.siteId, job.id] },
    attributes: ['id', 'erasedAt'],
    order: [['id', 'ASC']],
    transaction,
    lock: transaction.LOCK.UPDATE,
    raw: true,
  })
  if (locked.some(({ id, erasedAt }) => id === job.id && erasedAt)) throw wasErased()
  const branch = (await models.branches.findByPk(job.branchId, { transaction }))!
  return { job, branch, rules: rulesOf(branch) }
}
