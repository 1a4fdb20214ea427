import { Op, type Transaction } from 'sequelize'
import type { FeedMessage, FeedTopic } from '../../core/protocol'
import { database } from '../database'
import { runTogether, type Statement } from '../database/statements'
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
export const announce = (companyId: string, changes: FeedChange[], transaction: Transaction): Promise<void> =>
  runTogether(feedStatements(companyId, changes), transaction)

/** The same, for who has more to write in the same breath. They come last. */
export function feedStatements(companyId: string, changes: FeedChange[]): Statement[] {
  if (changes.length === 0) return []
  const at = new Date()
  const first = changes.length - 1
  return [
    // The new number stays with the connection: while this row is locked the company waits.
    { sql: 'UPDATE feeds SET seq = LAST_INSERT_ID(seq + ?) WHERE company_id = ?', values: [changes.length, companyId] },
    ...changes.map(({ branchId, topic, streamId = null, fromSeq = null, toSeq = null }, index) => ({
      sql: 'INSERT INTO feed_entries (company_id, seq, branch_id, topic, stream_id, from_seq, to_seq, at) VALUES (?, LAST_INSERT_ID() - ?, ?, ?, ?, ?, ?, ?)',
      values: [companyId, first - index, branchId, topic, streamId, fromSeq, toSeq, at],
    })),
  ]
}

export async function feedSeq(companyId: string): Promise<number> {
  const row = await database().models.feeds.findByPk(companyId, { raw: true })
  return Number(row?.seq ?? 0)
}

/** Newest feed numbers of several companies at once, for the server's own watch over what other servers committed. */
export async function feedSeqs(companyIds: string[]): Promise<Map<string, number>> {
  if (companyIds.length === 0) return new Map()
  const rows = await database().models.feeds.findAll({ where: { companyId: companyIds }, raw: true })
  return new Map(rows.map((row) => [row.companyId, Number(row.seq)]))
}

/** Feed entries after a number, oldest first, with the events they stand for. */
export async function feedAfter(companyId: string, after: number, limit: number): Promise<FeedMessage[]> {
  const rows = await database().models.feedEntries.findAll({
    where: { companyId, seq: { [Op.gt]: after } },
    order: [['seq', 'ASC']],
    limit,
    raw: true,
  })
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
