import type { Transaction } from 'sequelize'
import type { sites, BodyOf, OtherRecord } from '../../core/protocol'
import { boxName, breakerName, type SiteCommand, type SiteState } from '../../core/site'
import { refuse, type Refusal } from '../../core/stream'
import { database } from '../database'
import { ApiError } from './errors'
import { isOffice, siteFor, type Viewer } from './access'
import { plainAddress } from './address'

/** Records of the company that have the address of this one, but for those that somebody said are another home. */
export async function otherRecordsOf(
  site: { id: string; companyId: string; address: string },
  transaction?: Transaction,
): Promise<OtherRecord[]> {
  const { models } = database()
  const rows = await models.sites.findAll({
    where: { companyId: site.companyId },
    attributes: ['id', 'name', 'address'],
    raw: true,
    transaction,
  })
  const links = await models.homeLinks.findAll({ where: { companyId: site.companyId }, raw: true, transaction })
  const saidOf = (id: string) => {
    const [first, second] = [site.id, id].sort()
    return links.find((link) => link.firstSiteId === first && link.secondSiteId === second)?.said ?? null
  }
  const address = plainAddress(site.address)
  return rows.flatMap(({ id, name, address: other }) => {
    const said = saidOf(id)
    if (id === site.id || said === 'other') return []
    return said === 'same' || (address !== '' && plainAddress(other) === address)
      ? [{ id, name, address: other, said: said === 'same' ? 'same' : null }]
      : []
  })
}

/** Says whether two records are one home. Office and leads; the last word counts. */
export async function linkHomes(viewer: Viewer, siteId: string, { otherId, said }: BodyOf<typeof sites.linkHomes>): Promise<{ ok: true }> {
  const site = await siteFor(viewer, siteId)
  const other = await siteFor(viewer, otherId)
  if (!isOffice(viewer) && viewer.role !== 'lead')
    throw new ApiError(403, 'leadOnly', 'Whether two records are one home is said by a lead or the office.')
  if (site.id === other.id) throw new ApiError(422, 'sameRecord', 'These are not two records.')
  const [firstSiteId, secondSiteId] = [site.id, other.id].sort() as [string, string]
  await database().models.homeLinks.upsert({
    firstSiteId,
    secondSiteId,
    companyId: viewer.companyId,
    said,
    personId: viewer.personId,
    at: new Date(),
  })
  return { ok: true }
}

/** Commands that need to know how the other record of the home stands. */
export const asksOtherRecords = ({ type }: SiteCommand): boolean => type === 'requestClose' || type === 'hangTag' || type === 'startProof'

/**
 * Two records of one home are one set of breakers: nothing is closed by one of them while hands may be in by the other, and
 * nothing is begun by one while the other has a breaker closed or about to be.
 */
export function otherRecordForbids(
  command: SiteCommand,
  others: { name: string; state: SiteState }[],
): { ok: false; refusal: Refusal } | null {
  for (const { name, state } of others) {
    const remedy = `Finish there first; if ${name} is another home, a lead or the office says so on the job’s page.`
    if (command.type === 'requestClose') {
      const tags = Object.values(state.tags).map((tag) => `the tag of ${tag.name} on ${breakerName(state, state.breakers[tag.breakerId]!)}`)
      const open = Object.values(state.boxes)
        .filter((box) => box.closure !== 'closed')
        .map((box) => `${boxName(state, box)} open`)
      if (tags.length + open.length)
        return refuse('otherRecord', `This home is on record a second time, as ${name}: ${[...tags, ...open].join(', ')}.`, remedy)
    } else {
      const grants = Object.values(state.grants).map(
        (grant) => `${grant.name} may be closing ${breakerName(state, state.breakers[grant.breakerId]!)}`,
      )
      const live = Object.values(state.asks)
        .filter((ask) => ask.status === 'live')
        .map((ask) => `${breakerName(state, state.breakers[ask.breakerId]!)} is closed for a moment`)
      if (grants.length + live.length)
        return refuse('otherRecord', `This home is on record a second time, as ${name}: ${[...grants, ...live].join(', ')}.`, remedy)
    }
  }
  return null
}
