import type { ErasureKind } from '../../../core/protocol'
import { as, id, orNull, table, text, time, type RowOf } from './columns'

/** What was erased, by its id alone: played again where a backup of before is put back. */
export const erasures = table('erasures', {
  id,
  companyId: id,
  kind: as<ErasureKind>(text),
  /** The customer, or the picture. */
  refId: id,
  /** Of a picture: its job. */
  jobId: orNull(id),
  personId: id,
  at: time,
})
export type ErasureRow = RowOf<typeof erasures>
