import { QueryTypes, type Transaction } from 'sequelize'
import type { FeedMessage, FeedTopic } from '../../core/protocol'
import { database, type FeedEntryRow } from '../database'
import { eventsAfter } from './streams'

export interface FeedChange {
  topic: FeedTopic
  branchId: string | null
  streamId?: string
  fromSeq?: number
  toSeq?: number
}

/**
 * Gives a change its place in the company's feed. Call it last in a transaction: the counter row stays locked until
 * commit, so numbers have no gaps and become visible in order, whichever server wrote them.
 */
export async function announce(companyId: string, changes: FeedChange[], transaction: Transaction): Promise<void> {
  if (changes.length === 0) return
  const { sequelize, models } = database()
  // The new number comes back with the answer: while this row is locked the company waits.
  const [, { insertId }] = (await sequelize.query('UPDATE feeds SET seq = LAST_INSERT_ID(seq + :by) WHERE company_id = :companyId', {
    replacements: { companyId, by: changes.length },
    transaction,
  })) as unknown as [unknown, { insertId: number }]
  const top = Number(insertId)
  const at = new Date()
  await models.feedEntries.bulkCreate(
    changes.map((change, index) => ({
      companyId,
      seq: top - changes.length + 1 + index,
      branchId: change.branchId,
      topic: change.topic,
      streamId: change.streamId ?? null,
      fromSeq: change.fromSeq ?? null,
      toSeq: change.toSeq ?? null,
      at,
    })),
    { transaction },
  )
}

export async function feedSeq(companyId: string): Promise<number> {
  const [row] = await database().sequelize.query<{ seq: number }>('SELECT seq FROM feeds WHERE company_id = :companyId', {
    replacements: { companyId },
    type: QueryTypes.SELECT,
  })
  return Number(row?.seq ?? 0)
}

/** Newest feed numbers of several companies at once, for the server's own watch over what other servers committed. */
export async function feedSeqs(companyIds: string[]): Promise<Map<string, number>> {
  if (companyIds.length === 0) return new Map()
  const rows = await database().sequelize.query<{ companyId: string; seq: number }>(
    'SELECT company_id AS companyId, seq FROM feeds WHERE company_id IN (:companyIds)',
    { replacements: { companyIds }, type: QueryTypes.SELECT },
  )
  return new Map(rows.map((row) => [row.companyId, Number(row.seq)]))
}

/** Feed entries after a number, oldest first, with the events they stand for. */
export async function feedAfter(companyId: string, after: number, limit: number): Promise<FeedMessage[]> {
  const rows = await database().sequelize.query<FeedEntryRow>(
    'SELECT seq, branch_id AS branchId, topic, stream_id AS streamId, from_seq AS fromSeq, to_seq AS toSeq FROM feed_entries WHERE company_id = :companyId AND seq > :after ORDER BY seq LIMIT :limit',
    { replacements: { companyId, after, limit }, type: QueryTypes.SELECT },
  )
  return Promise.all(
    rows.map(async (row) => ({
      seq: Number(row.seq),
      topic: row.topic as FeedTopic,
      branchId: row.branchId,
      streamId: row.streamId,
      events:
        row.streamId && row.fromSeq !== null && row.toSeq !== null
          ? await eventsAfter(row.streamId, row.fromSeq - 1, row.toSeq - row.fromSeq + 1)
          : [],
    })),
  )
}
