import type { LetterPurpose } from '../../../core/dispatch'
import type { Channel } from '../../ports/messages'
import { as, id, int, orNull, table, text, time, type RowOf } from './columns'

export const messages = table('messages', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  visitId: id,
  purpose: as<LetterPurpose>(text),
  channel: as<Channel>(text),
  customer: text,
  recipient: text,
  subject: text,
  body: text,
  madeBy: id,
  madeAt: time,
  state: as<'waiting' | 'sent' | 'failed'>(text),
  tries: int,
  sentAt: orNull(time),
  /** What the service said. */
  answer: text,
})
export type MessageRow = RowOf<typeof messages>

export const visitPages = table(
  'visit_pages',
  {
    visitId: id,
    companyId: id,
    /** When each thing to prepare was ticked, as JSON. */
    ticks: text,
    /** Other times that were offered, as JSON. */
    offers: text,
    offeredBy: orNull(id),
    offeredAt: orNull(time),
    chosenAt: orNull(time),
  },
  ['visitId'],
)
export type VisitPageRow = RowOf<typeof visitPages>
