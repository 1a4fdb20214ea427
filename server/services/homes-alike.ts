import { Op } from 'sequelize'
import type { HomesAlike } from '../../core/survey/neutral-prior'
import { sameName } from '../../core/site'
import { database, type SiteRow } from '../database'

/** Street and place of an address, without the number of the house. */
const streetOf = (address: string) =>
  address
    .toLowerCase()
    .replace(/\b\d+\s?[a-z]?\b/g, '')
    .replace(/[^\p{L}]+/gu, '')

/** What was found in homes of the branch that are wired alike: by the same builder, else in the same street. Null: none were opened. */
export async function homesAlike(site: SiteRow, builder: string): Promise<HomesAlike | null> {
  const { models } = database()
  const finds = await models.homeFinds.findAll({
    where: { branchId: site.branchId, siteId: { [Op.ne]: site.id }, opened: { [Op.gt]: 0 } },
    raw: true,
  })
  const sum = (rows: typeof finds, by: HomesAlike['by']): HomesAlike | null =>
    rows.length
      ? {
          by,
          homes: rows.length,
          neutrals: rows.reduce((all, one) => all + one.neutrals, 0),
          opened: rows.reduce((all, one) => all + one.opened, 0),
        }
      : null
  const built = builder
    ? sum(
        finds.filter((one) => sameName(one.builder, builder)),
        'builder',
      )
    : null
  if (built || finds.length === 0) return built
  const sites = await models.sites.findAll({ where: { id: finds.map(({ siteId }) => siteId) }, attributes: ['id', 'address'], raw: true })
  const street = streetOf(site.address)
  const near = new Set(sites.flatMap(({ id, address }) => (street !== '' && streetOf(address) === street ? [id] : [])))
  return sum(
    finds.filter(({ siteId }) => near.has(siteId)),
    'street',
  )
}
