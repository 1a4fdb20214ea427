import { QueryTypes, type Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { AccessLine, Deed } from '../../core/protocol'
import { database } from '../database'
import type { Viewer } from './access'

export interface Left {
  deed: Deed
  /** Of a file: what it is. Of a login: the device. */
  what?: string
  /** The person, branch, tester, job or link that it is about. */
  refId?: string | null
  changes?: AccessLine['changes']
}
/** A line in the access record of a company; with a transaction it stands or falls with what was done. */
export async function leaveLine(
  { companyId, personId }: Pick<Viewer, 'companyId' | 'personId'>,
  { deed, what = '', refId = null, changes = [] }: Left,
  transaction?: Transaction,
): Promise<void> {
  await database().models.accessRecord.create(
    { id: uuid(), companyId, personId, deed, what: what.slice(0, 200), refId, changes, at: new Date() },
    { transaction },
  )
}

const plain = (value: unknown): string => {
  if (value === null || value === undefined || value === '') return '–'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'object') return '…'
  return String(value).slice(0, 80)
}
/** What is otherwise now, of these fields; what is larger than a word is only said to have changed. */
export function changesOf<T extends object>(before: T | null, after: T, fields: readonly (keyof T & string)[]): AccessLine['changes'] {
  return fields.flatMap((field) => {
    const [was, is] = [before?.[field] ?? null, after[field] ?? null]
    return JSON.stringify(was) === JSON.stringify(is) ? [] : [{ field, from: before ? plain(was) : '', to: plain(is) }]
  })
}

const mostListed = 100
/** The newest first: ids grow with time. With one, only what was before it. */
export async function listAccessRecord(
  { companyId }: Viewer,
  { before, deed }: { before?: string; deed?: Deed },
): Promise<{ lines: AccessLine[]; more: boolean }> {
  const rows = await database().sequelize.query<Omit<AccessLine, 'at' | 'changes'> & { at: Date; changes: unknown }>(
    `SELECT r.id AS id, r.deed AS deed, r.what AS what, r.at AS at, r.changes AS changes, COALESCE(p.name, '') AS who,
        COALESCE(about.name, b.name, i.name, s.name, l.name, '') AS about, j.id AS jobId
      FROM access_record r LEFT JOIN people p ON p.id = r.person_id
      LEFT JOIN people about ON about.id = r.ref_id AND about.company_id = r.company_id
      LEFT JOIN branches b ON b.id = r.ref_id AND b.company_id = r.company_id
      LEFT JOIN instruments i ON i.id = r.ref_id AND i.company_id = r.company_id
      LEFT JOIN jobs j ON j.id = r.ref_id AND j.company_id = r.company_id LEFT JOIN sites s ON s.id = j.site_id
      LEFT JOIN device_links l ON l.id = r.ref_id AND l.company_id = r.company_id
      WHERE r.company_id = :companyId ${before ? 'AND r.id < :before' : ''} ${deed ? 'AND r.deed = :deed' : ''}
      ORDER BY r.id DESC LIMIT ${mostListed + 1}`,
    { type: QueryTypes.SELECT, replacements: { companyId, before: before ?? null, deed: deed ?? null } },
  )
  return {
    more: rows.length > mostListed,
    lines: rows.slice(0, mostListed).map((row) => ({
      ...row,
      at: new Date(row.at).toISOString(),
      changes: (typeof row.changes === 'string' ? JSON.parse(row.changes) : row.changes) as AccessLine['changes'],
    })),
  }
}
