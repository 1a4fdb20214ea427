import { QueryTypes, type Transaction } from 'sequelize'
import type { FeedMessage, FeedTopic } from '../../core/protocol'
import { database, type EventRow } from '../database'
import { runTogether, type Statement } from '../database/statements'
import { eventOf } from './streams'

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

type EntryRow = Omit<EventRow, 'companyId' | 'seq'> & {
  feedSeq: number
  topic: FeedTopic
  branchId: string | null
  about: string | null
  /** How many events the entry stands for. */
  due: number
  seq: number | null
}

/**
 * Feed entries after a number, oldest first, with the events they stand for: one statement, so that both are of one moment.
 * @throws where an entry lacks events of its own: a client that heard of it would never get them
 */
export async function feedAfter(companyId: string, after: number, limit: number): Promise<FeedMessage[]> {
  const rows = await database().sequelize.query<EntryRow>(
    `SELECT f.seq AS feedSeq, f.topic, f.branch_id AS branchId, f.stream_id AS about, IF(f.stream_id IS NULL, 0, COALESCE(f.to_seq - f.from_seq + 1, 0)) AS due,
       e.seq, e.id, e.stream, e.stream_id AS streamId, e.command_id AS commandId, e.version, e.at, e.received_at AS receivedAt, e.type, e.actor, e.payload
     FROM (SELECT * FROM feed_entries WHERE company_id = :companyId AND seq > :after ORDER BY seq LIMIT :limit) f
     LEFT JOIN events e ON e.stream_id = f.stream_id AND e.seq BETWEEN f.from_seq AND f.to_seq
     ORDER BY f.seq, e.seq`,
    { replacements: { companyId, after, limit }, type: QueryTypes.SELECT },
  )
  const messages: FeedMessage[] = []
  let missing = 0
  for (const { feedSeq, topic, branchId, about, due, seq, ...told } of rows) {
    if (messages.at(-1)?.seq !== Number(feedSeq)) {
      messages.push({ seq: Number(feedSeq), topic, branchId, streamId: about, events: [] })
      missing += Number(due)
    }
    if (seq === null) continue
    messages.at(-1)!.events.push(eventOf({ ...told, seq }))
    missing--
  }
  if (missing !== 0) throw new Error(`The feed of ${companyId} after ${after} lacks ${missing} entries of its streams.`)
  return messages
}
