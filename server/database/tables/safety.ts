import type { NearMissKind } from '../../../core/insight/near-misses'
import { as, id, int, orNull, table, text, time, type RowOf } from './columns'

export const hangingTags = table('hanging_tags', {
  id,
  companyId: id,
  branchId: id,
  siteId: id,
  breakerId: id,
  breakerNumber: text,
  personId: id,
  initials: text,
  lockName: text,
  hungAt: time,
})

export const openAlarms = table(
  'open_alarms',
  {
    siteId: id,
    personId: id,
    seq: int,
    companyId: id,
    branchId: id,
    what: text,
    reportedBy: text,
    place: text,
    at: time,
    shownAt: orNull(time),
  },
  ['siteId', 'personId', 'seq'],
)

export type OpenAlarmRow = RowOf<typeof openAlarms>

/** Who works alone, and when they are to be heard of. */
export const soloWatches = table(
  'solo_watches',
  {
    siteId: id,
    personId: id,
    companyId: id,
    branchId: id,
    name: text,
    contact: text,
    dueAt: time,
  },
  ['siteId', 'personId'],
)

/** What was refused before it could hurt somebody (by its command), and proofs that ended under somebody’s hands (by proof). Nobody’s name stands in it. */
export const nearMisses = table(
  'near_misses',
  { id, siteId: id, companyId: id, branchId: id, kind: as<NearMissKind>(text), code: text, at: time },
  ['id', 'siteId'],
)
