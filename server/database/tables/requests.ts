import type { AwayKind } from '../../../core/dispatch'
import { as, id, int, orNull, table, text, time, type RowOf } from './columns'

export const requests = table('requests', {
  id,
  companyId: id,
  branchId: id,
  /** Whose time, or visit, it is. */
  personId: id,
  kind: as<AwayKind | 'swap'>(text),
  startsAt: time,
  endsAt: time,
  visitId: orNull(id),
  jobId: orNull(id),
  /** Who would take the visit. */
  otherId: orNull(id),
  note: text,
  state: as<'asked' | 'approved' | 'declined' | 'withdrawn'>(text),
  /** Of an entry of a calendar that was read in, as a digest. */
  uid: orNull(text),
  askedBy: id,
  askedAt: time,
  decidedBy: orNull(id),
  decidedAt: orNull(time),
  answer: text,
})
export type RequestRow = RowOf<typeof requests>

/** Another epoch, and the links to a person’s calendar that were given out before open nothing any more. */
export const calendarLinks = table('calendar_links', { personId: id, epoch: int }, ['personId'])
