import { QueryTypes } from 'sequelize'
import type { WaitingAlarm } from '../../core/protocol'
import { database } from '../database'
import type { Viewer } from './access'

/** The alarms that wait for this person, newest first: on any device, page or later sign-in. */
export async function alarmsOf(viewer: Viewer): Promise<WaitingAlarm[]> {
  const rows = await database().sequelize.query<Omit<WaitingAlarm, 'at' | 'shown'> & { at: Date; shown: number }>(
    `SELECT a.site_id AS siteId, a.seq, a.what, a.reported_by AS \`by\`, a.place, s.name AS siteName, a.at, a.shown_at IS NOT NULL AS shown
     FROM open_alarms a JOIN sites s ON s.id = a.site_id WHERE a.person_id = :personId AND a.company_id = :companyId ORDER BY a.at DESC LIMIT 50`,
    { replacements: { personId: viewer.personId, companyId: viewer.companyId }, type: QueryTypes.SELECT },
  )
  return rows.map((row) => ({ ...row, at: new Date(row.at).toISOString(), shown: Boolean(row.shown) }))
}
