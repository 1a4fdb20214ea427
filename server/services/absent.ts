import { v7 as uuid } from 'uuid'
import type { SiteCommand } from '../../core/site'
import { database } from '../database'
import { viewerOf } from './access'
import { ApiError } from './errors'
import { giveToSite } from './write-command'

/**
 * Given on the host, where the only lead of a company is the person who is gone: ends what they left at one home.
 * A second person of the company is named and stands for the confirmation. Returns a sentence.
 */
export async function endForAbsent(
  { site: siteName, login, how, confirmedBy }: { site: string; login: string; how: string; confirmedBy: string },
  now = new Date(),
): Promise<string> {
  const { models } = database()
  const person = await models.people.findOne({ where: { login } })
  const second = await models.people.findOne({ where: { login: confirmedBy } })
  if (!person || !second || second.companyId !== person.companyId || second.id === person.id)
    throw new ApiError(404, 'notFound', 'Name two people of one company by their logins.')
  const others = await models.people.count({ where: { companyId: person.companyId, role: 'lead', active: true } })
  if (person.role !== 'lead' || others > 1)
    throw new ApiError(409, 'leadThere', 'Another lead can do this in the app, with a second person.')
  const site = await models.sites.findOne({ where: { companyId: person.companyId, name: siteName } })
  if (!site) throw new ApiError(404, 'notFound', `There is no home called ${siteName}.`)
  const host = { ...(await viewerOf(second)), personId: uuid(), name: 'The host', initials: 'HO', role: 'lead' as const }
  const confirming = await viewerOf(second)
  const give = async (viewer: typeof host, command: SiteCommand) => {
    const { outcome } = await giveToSite(site, viewer, command, { basedOnSeq: Number.MAX_SAFE_INTEGER, now })
    if (outcome.status === 'refused') throw new ApiError(409, outcome.refusal.code, outcome.refusal.reasons.join(' '))
  }
  await give(host, { type: 'declareAbsent', personId: person.id, reason: how, leftBuildingVerified: true, explained: how })
  await give({ ...host, ...confirming, role: host.role }, { type: 'confirmAbsent', personId: person.id, household: null })
  return `What ${person.name} left at ${site.name} was ended. It stands in the history of the home.`
}
