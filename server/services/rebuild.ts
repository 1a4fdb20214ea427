import { Op } from 'sequelize'
import { database, transacted } from '../database'
import { runTogether } from '../database/statements'
import { jobStatements, levelStatements, siteStatements } from './projections'
import { forgetStates, readState } from './streams'

/** Throws every projected row away and makes it again from the streams. Returns how many streams were folded. */
export async function rebuildProjections(): Promise<{ sites: number; jobs: number }> {
  const { models } = database()
  forgetStates()
  const streams = await models.streams.findAll({ attributes: ['id', 'kind', 'companyId', 'branchId'], raw: true })
  const sites = streams.filter((stream) => stream.kind === 'site')
  const jobs = streams.filter((stream) => stream.kind === 'job')
  await transacted(async (transaction) => {
    for (const projected of [
      models.visitPeople,
      models.visits,
      models.units,
      models.callbacks,
      models.hangingTags,
      models.soloWatches,
      models.openAlarms,
      models.homeFinds,
      models.partNeeds,
      models.preparedUnits,
      models.devicesOut,
      models.pairings,
      models.stockLevels,
    ])
      await (projected as typeof models.visits).destroy({ where: {}, transaction })
    // Moves of jobs follow from their records; what the store did by itself is told by its moves alone.
    await models.stockMoves.destroy({ where: { jobId: { [Op.ne]: null } }, transaction })
    await runTogether(levelStatements(await models.stockMoves.findAll({ where: { jobId: null }, transaction, raw: true })), transaction)
    for (const { id, companyId, branchId } of sites)
      await runTogether(siteStatements(null, await readState('site', id), { companyId, branchId }), transaction)
    for (const { id, companyId, branchId } of jobs) {
      const job = await readState('job', id)
      await runTogether(jobStatements(null, job, await readState('site', job.siteId), { companyId, branchId }), transaction)
    }
  })
  return { sites: sites.length, jobs: jobs.length }
}
