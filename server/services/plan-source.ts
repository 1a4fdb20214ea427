import type { PlanSource } from '../../core/plan'
import { usualHousehold } from '../../core/plan'
import { database } from '../database'
import { jobFor, siteFor, type Viewer } from './access'
import { articleOf } from './article-rows'
import { modelRecord } from './articles'
import { settingsOf } from './branch-rules'
import { listCatalogue, listParts } from './catalogue'
import { homesAlike } from './homes-alike'
import { readState } from './streams'

/** All that a plan of a job rests on, read now: what the screens plan with, and what the server sums up by. */
export async function planSource(viewer: Viewer, jobId: string): Promise<PlanSource> {
  const row = await jobFor(viewer, jobId)
  const [siteRow, job, site, settings, catalogue, parts, articles, record] = await Promise.all([
    siteFor(viewer, row.siteId),
    readState('job', row.id),
    readState('site', row.siteId),
    settingsOf(row.branchId),
    listCatalogue(viewer),
    listParts(viewer),
    database().models.articles.findAll({ where: { companyId: viewer.companyId, branchId: row.branchId }, raw: true }),
    modelRecord(viewer),
  ])
  return {
    job,
    site,
    catalogue: catalogue.filter(({ active }) => active),
    parts,
    articles: articles.map(articleOf),
    money: settings.money,
    known: { yearBuilt: siteRow.yearBuilt, alike: await homesAlike(siteRow, site.home.builder) },
    record,
    wishes: job.wishes,
    household: job.household ?? usualHousehold,
    edition: settings.necEdition,
  }
}
