import { Op } from 'sequelize'
import type { sites, BodyOf, Present, LoneWorkWatch } from '../../core/protocol'
import { database, transacted } from '../database'
import { hub } from '../realtime/hub'
import { isOffice, siteFor, type Viewer } from './access'
import { announce } from './feed'

/** Nobody is shown as being at a place they were last heard from longer ago than this, hours. */
const longestHours = 10

/** Says where the viewer is. Everybody who sees the site hears of it. */
export async function arriveAt(viewer: Viewer, siteId: string, { place }: BodyOf<typeof sites.sayWhere>): Promise<{ ok: true }> {
  const site = await siteFor(viewer, siteId)
  await transacted(async (transaction) => {
    const { models } = database()
    const known = await models.presence.findByPk(viewer.personId, { transaction, raw: true })
    const row = { companyId: viewer.companyId, siteId, place, connected: true, seenAt: new Date() }
    // A person's own row, under their own id: written over on purpose.
    await models.presence.upsert({ personId: viewer.personId, ...row }, { transaction })
    const left = known && known.siteId !== siteId ? [{ topic: 'presence' as const, branchId: site.branchId, streamId: known.siteId }] : []
    await announce(viewer.companyId, [...left, { topic: 'presence', branchId: site.branchId, streamId: siteId }], transaction)
  })
  hub.wake(viewer.companyId)
  return { ok: true }
}

/** Who is at a site. */
export async function presentAt(viewer: Viewer, siteId: string): Promise<{ present: Present[] }> {
  await siteFor(viewer, siteId)
  const rows = await database().models.presence.findAll({
    where: { siteId, companyId: viewer.companyId, seenAt: { [Op.gt]: new Date(Date.now() - longestHours * 3_600_000) } },
    order: [['seenAt', 'DESC']],
    raw: true,
  })
  return {
    present: rows.map(({ personId, place, connected, seenAt }) => ({
      personId,
      place,
      connected: Boolean(connected),
      seenAt: new Date(seenAt).toISOString(),
    })),
  }
}

/** People who work alone, the most overdue first. Technicians see their branch, the office all. */
export async function soloWatches(viewer: Viewer): Promise<{ watches: LoneWorkWatch[] }> {
  const rows = await database().models.soloWatches.findAll({
    where: { companyId: viewer.companyId, ...(isOffice(viewer) ? {} : { branchId: viewer.branchId }) },
    order: [['dueAt', 'ASC']],
    raw: true,
  })
  const sites = await database().models.sites.findAll({
    where: { id: rows.map((row) => row.siteId) },
    attributes: ['id', 'name'],
    raw: true,
  })
  return {
    watches: rows.map(({ siteId, personId, name, contact, dueAt }) => ({
      siteId,
      siteName: sites.find((site) => site.id === siteId)?.name ?? '',
      personId,
      name,
      contact,
      dueAt: new Date(dueAt).toISOString(),
    })),
  }
}
