import type { WaitingAlarm } from '../../core/protocol'
import { database, joined, type OpenAlarmRow, type SiteRow } from '../database'
import type { Viewer } from './access'

/** The alarms that wait for this person, newest first: on any device, page or later sign-in. */
export async function alarmsOf(viewer: Viewer): Promise<WaitingAlarm[]> {
  const rows = await joined<OpenAlarmRow & { site: SiteRow }>(database().models.openAlarms, {
    where: { personId: viewer.personId, companyId: viewer.companyId },
    include: ['site'],
    order: [['at', 'DESC']],
    limit: 50,
  })
  return rows.map(({ siteId, seq, what, reportedBy, place, site, at, shownAt }) => ({
    siteId,
    seq,
    what,
    by: reportedBy,
    place,
    siteName: site.name,
    at: at.toISOString(),
    shown: shownAt !== null,
  }))
}
