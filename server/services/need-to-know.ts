import { QueryTypes } from 'sequelize'
import type { SecretRead } from '../../core/protocol'
import { database } from '../database'
import { isOffice, type Viewer } from './access'
import { ApiError } from './errors'

/** From the day before a visit to the day after it: 36 hours reach over a night in any zone. */
const around = 36 * 3_600_000

/** Codes are for whoever has a visit in this home about now, and for the office. */
export const mayKnowCodes = async (viewer: Viewer, siteId: string): Promise<boolean> => isOffice(viewer) || hasVisitNow(viewer, siteId)

async function hasVisitNow(viewer: Viewer, siteId: string, now = new Date()): Promise<boolean> {
  const [visit] = await database().sequelize.query<object>(
    "SELECT v.id FROM visits v JOIN visit_people p ON p.visit_id = v.id WHERE v.site_id = :siteId AND p.person_id = :personId AND v.status <> 'cancelled' AND v.starts_at <= :to AND v.ends_at >= :from LIMIT 1",
    {
      type: QueryTypes.SELECT,
      replacements: {
        ...{ siteId, personId: viewer.personId },
        ...{ from: new Date(now.getTime() - around), to: new Date(now.getTime() + around) },
      },
    },
  )
  return visit !== undefined
}
/**
 * A single code: the lead always, others for their visit, the dispatcher otherwise with a reason that stands in the list.
 * @throws ApiError 403 where it is not for them, 422 where they have to say why
 */
export async function needCodes(viewer: Viewer, siteId: string, reason?: string): Promise<void> {
  if (viewer.role === 'lead' || (await hasVisitNow(viewer, siteId))) return
  if (viewer.role === 'dispatcher') {
    if (reason) return
    throw new ApiError(
      422,
      'reasonNeeded',
      'You have no visit in this home: say why you need the code. It stands in the list of codes that were read.',
    )
  }
  throw new ApiError(403, 'noVisit', 'Codes are for whoever has a visit in this home from yesterday to tomorrow. Ask the office.')
}

const mostListed = 200
/** Who read which code, the newest first. */
export async function listSecretReads({ companyId }: Viewer): Promise<{ reads: SecretRead[] }> {
  const rows = await database().sequelize.query<Omit<SecretRead, 'at'> & { at: Date }>(
    `SELECT r.id AS id, r.what AS what, r.at AS at, r.reason AS reason, COALESCE(people.name, '') AS who, COALESCE(us.name, ss.name, js.name, '') AS siteName, COALESCE(u.job_id, j.id) AS jobId, COALESCE(u.serial, '') AS serial
      FROM secret_reads r LEFT JOIN people ON people.id = r.person_id
      LEFT JOIN units u ON r.what = 'setupCode' AND u.id = r.ref_id AND u.company_id = r.company_id LEFT JOIN sites us ON us.id = u.site_id
      LEFT JOIN sites ss ON r.what = 'doorCode' AND ss.id = r.ref_id AND ss.company_id = r.company_id
      LEFT JOIN jobs j ON r.what IN ('pack', 'homePage') AND j.id = r.ref_id AND j.company_id = r.company_id LEFT JOIN sites js ON js.id = j.site_id
      WHERE r.company_id = :companyId ORDER BY r.at DESC, r.id DESC LIMIT ${mostListed}`,
    { type: QueryTypes.SELECT, replacements: { companyId } },
  )
  return { reads: rows.map((row) => ({ ...row, at: new Date(row.at).toISOString() })) }
}
