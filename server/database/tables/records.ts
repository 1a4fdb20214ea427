import type { StreamKind } from '../../../core/stream'
import { as, id, int, orNull, table, text, time, type RowOf } from './columns'

export const streams = table('streams', {
  id,
  kind: as<StreamKind>(text),
  companyId: id,
  branchId: id,
  seq: int,
  snapshotVersion: orNull(int),
  snapshotSeq: int,
  snapshot: orNull(text),
  /** So often its entries were written over: what was folded of an earlier edition is worth nothing. */
  edition: int,
  /** Its customer was erased then: nothing is added to a job any more; of a home facts are taken, as ever. */
  erasedAt: orNull(time),
})
export type StreamRow = RowOf<typeof streams>

export const events = table(
  'events',
  {
    streamId: id,
    seq: int,
    id,
    stream: as<StreamKind>(text),
    companyId: id,
    commandId: id,
    type: text,
    version: int,
    payload: text,
    actor: text,
    at: text,
    receivedAt: text,
  },
  ['streamId', 'seq'],
)
export type EventRow = RowOf<typeof events>

export const commands = table('commands', {
  id,
  companyId: id,
  personId: id,
  streamId: id,
  fingerprint: text,
  type: text,
  outcome: text,
  receivedAt: time,
})

/** The newest number of each company's feed. */
export const feeds = table('feeds', { companyId: id, seq: int }, ['companyId'])

export const feedEntries = table(
  'feed_entries',
  {
    companyId: id,
    seq: int,
    branchId: orNull(id),
    topic: text,
    streamId: orNull(id),
    fromSeq: orNull(int),
    toSeq: orNull(int),
    at: time,
  },
  ['companyId', 'seq'],
)
export type FeedEntryRow = RowOf<typeof feedEntries>
