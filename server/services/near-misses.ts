import { endedEarly, isNearMiss } from '../../core/insight/near-misses'
import type { SiteState } from '../../core/site'
import type { Outcome, StreamEvent } from '../../core/stream'
import type { Statement } from '../database/statements'
import type { Asked } from './asked'

/** A record as it was and as it is, with what came to it. */
interface Changed {
  kind: string
  row: { id: string; companyId: string; branchId: string }
  before: unknown
  after: unknown
  events: StreamEvent[]
}
type Row = [id: string, siteId: string, companyId: string, branchId: string, kind: string, code: string, at: Date]

function endedIn({ kind, row, before, after, events }: Changed): Row[] {
  if (kind !== 'site') return []
  const was = (before as SiteState).proofs
  return Object.values((after as SiteState).proofs).flatMap((proof): Row[] => {
    const code = proof.voidWhy?.code
    if (proof.status !== 'void' || !code || !endedEarly(code)) return []
    // One that was never finished protected nobody yet.
    if (was[proof.id]?.status !== 'living') return []
    return [[proof.id, row.id, row.companyId, row.branchId, 'ended', code, new Date(events.at(-1)!.receivedAt)]]
  })
}

/** Rows of what was refused before it could hurt somebody, and of proofs that ended under somebody’s hands. */
export function nearMissStatements(
  asked: (Pick<Asked, 'envelope' | 'viewer' | 'row' | 'now'> & { siteId: string; outcome: Outcome })[],
  changed: Changed[],
): Statement[] {
  const refused = asked.flatMap(({ envelope, row, siteId, now, outcome }): Row[] => {
    if (outcome.status !== 'refused' || !isNearMiss(outcome.refusal.code)) return []
    return [[envelope.id, siteId, row.companyId, row.branchId, 'refused', outcome.refusal.code, now]]
  })
  const rows = [...refused, ...changed.flatMap(endedIn)]
  if (!rows.length) return []
  // Kept beside the record, and never in its way: an id that somebody used twice takes nothing along.
  const places = rows.map(() => '(?, ?, ?, ?, ?, ?, ?)').join(', ')
  return [
    { sql: `INSERT IGNORE INTO near_misses (id, site_id, company_id, branch_id, kind, code, at) VALUES ${places}`, values: rows.flat() },
  ]
}
