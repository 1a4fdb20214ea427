import type { MessagePurpose } from '../../../core/dispatch'
import type { Channel } from '../../ports/messages'
import { as, id, int, orNull, table, text, time, type RowOf } from './columns'

export const messages = table('messages', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  /** null: not from a visit. */
  visitId: orNull(id),
  purpose: as<MessagePurpose>(text),
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

/** The page that a household keeps of its home. */
export const homePages = table(
  'home_pages',
  {
    jobId: id,
    companyId: id,
    /** Whose asking made this link: asked twice, it is made once. */
    requestId: id,
    /** Links of before open nothing any more. */
    epoch: int,
    until: time,
    /** The household’s own; null: its codes are not on the page. */
    pinHash: orNull(text),
    madeBy: id,
    madeAt: time,
    openedAt: orNull(time),
    codesReadAt: orNull(time),
    codesRead: int,
  },
  ['jobId'],
)
export type HomePageRow = RowOf<typeof homePages>
