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
  // Companies do not know of each other's logins: two people of one company who have that home are meant.
  const [gone, seconds] = await Promise.all([login, confirmedBy].map((one) => models.people.findAll({ where: { login: one } })))
  const pairs = gone!.flatMap((person) =>
    seconds!.filter((one) => one.companyId === person.companyId && one.id !== person.id).map((second) => ({ person, second })),
  )
  if (!pairs.length) throw new ApiError(404, 'notFound', 'Name two people of one company by their logins.')
  const homes = await models.sites.findAll({
    where: { companyId: pairs.map(({ person }) => person.companyId), name: siteName },
    attributes: ['companyId'],
    raw: true,
  })
  const meant = pairs.length > 1 ? pairs.filter(({ person }) => homes.some((home) => home.companyId === person.companyId)) : pairs
  if (meant.length > 1)
    throw new ApiError(409, 'whichCompany', 'Two companies have these logins and a home of this name. Nothing was ended.')
  if (!meant.length) throw new ApiError(404, 'notFound', `There is no home called ${siteName}.`)
  const { person, second } = meant[0]!
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
