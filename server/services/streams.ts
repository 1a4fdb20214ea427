import { Op, type Transaction } from 'sequelize'
import { foldEvents, understood, type StreamEvent, type StreamKind, type StreamReducer } from '../../core/stream'
import { readerOf } from '../../core/stream/schemas'
import { streamSchemas } from '../../core/stream-schemas'
import { streams, type StateOf } from '../../core/streams'
import { database, type EventRow, type StreamRow } from '../database'
import { insertInto, type Statement } from '../database/statements'
import { DatabaseTrouble } from '../database/transact'

const snapshotEvery = 50
const cacheLimit = 600
/** Committed states by stream id. Only ever holds what the database has; a writer folds its own copy. */
const cache = new Map<string, { state: StateOf<StreamKind>; edition: number }>()
type Edition = Pick<StreamRow, 'id' | 'edition'>

/** Entries are read by their schemas here, where they come out of the database; whoever gets them from here need not. */
export const reducerOf = <K extends StreamKind>(kind: K): StreamReducer<StateOf<K>> => readers[kind] as StreamReducer<never>
const readers = {
  site: { ...streams.site.reducer, read: readerOf(streamSchemas.site.payloads) },
  job: { ...streams.job.reducer, read: readerOf(streamSchemas.job.payloads) },
}

export function eventOf(row: Omit<EventRow, 'companyId'>): StreamEvent {
  const { id, stream, streamId, seq, commandId, version, at, receivedAt, type } = row
  return {
    id,
    stream,
    streamId,
    seq,
    commandId,
    version,
    at,
    receivedAt,
    type,
    actor: JSON.parse(row.actor),
    payload: JSON.parse(row.payload),
  }
}

export async function eventsAfter(streamId: string, after: number, limit = 5000, transaction?: Transaction): Promise<StreamEvent[]> {
  const rows = await database().models.events.findAll({
    where: { streamId, seq: { [Op.gt]: after } },
    order: [['seq', 'ASC']],
    limit,
    raw: true,
    transaction,
  })
  return rows.map(eventOf)
}

/** Every entry of a record. */
export async function eventsOf(streamId: string, transaction: Transaction): Promise<StreamEvent[]> {
  const all: StreamEvent[] = []
  for (;;) {
    const next = await eventsAfter(streamId, all.at(-1)?.seq ?? 0, 5000, transaction)
    if (!next.length) return all
    all.push(...next)
  }
}

const fresh = <K extends StreamKind>(kind: K, id: string): StateOf<K> => streams[kind].empty(id) as StateOf<K>

/** What was folded of another edition is not what the record says any more. */
function cachedOf<K extends StreamKind>({ id, edition }: Edition): StateOf<K> | undefined {
  const known = cache.get(id)
  return known?.edition === edition ? (known.state as StateOf<K>) : undefined
}
function remember({ id, edition }: Edition, state: StateOf<StreamKind>): void {
  const known = cache.get(id)
  if (known && (known.edition > edition || (known.edition === edition && known.state.seq > state.seq))) return
  cache.delete(id)
  cache.set(id, { state, edition })
  if (cache.size > cacheLimit) cache.delete(cache.keys().next().value!)
}

/**
 * State of a stream at `row.seq`. Starts from the cache or the newest snapshot of this reducer version.
 * The result is shared: copy it before folding anything uncommitted.
 */
async function stateAt<K extends StreamKind>(kind: K, row: StreamRow, transaction?: Transaction): Promise<StateOf<K>> {
  const cached = cachedOf<K>(row)
  // The row is held, and yet this server knows more: another node answers, and has not caught up. Begun anew, by what it holds.
  if (transaction && cached && cached.seq > row.seq) {
    cache.delete(row.id)
    throw new DatabaseTrouble('deadlock', false, new Error(`${row.id} stands at ${row.seq}, and ${cached.seq} was known.`))
  }
  if (cached && cached.seq >= row.seq) return cached
  const usable = row.snapshot && row.snapshotVersion === streams[kind].reducerVersion && row.snapshotSeq > (cached?.seq ?? 0)
  // A copy, so that a reader who still holds the older state does not see it change under its hands.
  const state = usable ? (JSON.parse(row.snapshot!) as StateOf<K>) : cached ? structuredClone(cached) : fresh(kind, row.id)
  while (state.seq < row.seq) {
    const events = await eventsAfter(row.id, state.seq, 5000, transaction)
    if (events.length === 0) break
    foldEvents(reducerOf(kind), state, events)
  }
  // What a transaction sees of its own may still be rolled back: only what was committed is kept for others.
  if (!transaction) remember(row, state)
  return state
}

/** Reads a stream's committed state. */
export async function readState<K extends StreamKind>(kind: K, id: string): Promise<StateOf<K>> {
  const cached = cache.get(id)
  const light = await database().models.streams.findByPk(id, { attributes: cached ? { exclude: ['snapshot'] } : undefined, raw: true })
  return light ? stateAt(kind, light, undefined) : fresh(kind, id)
}

/** Locks streams in the order of their ids, whoever locks them, so that nobody waits on another in a circle. */
export async function lockStates(ids: string[], transaction: Transaction): Promise<{ row: StreamRow; state: StateOf<StreamKind> }[]> {
  const rows = await database().models.streams.findAll({
    where: { id: ids },
    order: [['id', 'ASC']],
    transaction,
    lock: transaction.LOCK.UPDATE,
    raw: true,
    attributes: ids.every((id) => cache.has(id)) ? { exclude: ['snapshot'] } : undefined,
  })
  const locked: { row: StreamRow; state: StateOf<StreamKind> }[] = []
  for (const row of rows) locked.push({ row, state: await stateAt(row.kind, row, transaction) })
  return locked
}

/** Locks a stream's row for the rest of the transaction and reads its state. */
export async function lockState<K extends StreamKind>(
  kind: K,
  id: string,
  transaction: Transaction,
): Promise<{ row: StreamRow; state: StateOf<K> } | null> {
  const [locked] = await lockStates([id], transaction)
  return locked?.row.kind === kind ? (locked as { row: StreamRow; state: StateOf<K> }) : null
}

/** What stores events behind locked rows. Seq has no gaps because the rows are locked. */
export function eventStatements(
  held: { kind: StreamKind; row: StreamRow; after: StateOf<StreamKind>; events: StreamEvent[] }[],
): Statement[] {
  if (held.length === 0) return []
  const due = held.filter(({ row, after }) => Math.floor(after.seq / snapshotEvery) > Math.floor(row.seq / snapshotEvery))
  return [
    insertInto(
      'events',
      ['id', 'stream', 'stream_id', 'seq', 'company_id', 'command_id', 'type', 'version', 'payload', 'actor', 'at', 'received_at'],
      held.flatMap(({ row, events }) =>
        events.map((event) => [
          event.id,
          event.stream,
          event.streamId,
          event.seq,
          row.companyId,
          event.commandId,
          event.type,
          event.version,
          JSON.stringify(event.payload),
          JSON.stringify(event.actor),
          event.at,
          event.receivedAt,
        ]),
      ),
    ),
    ...held.map(({ row, after }) => ({ sql: 'UPDATE streams SET seq = ? WHERE id = ?', values: [after.seq, row.id] })),
    ...due.map(({ kind, row, after }) => ({
      sql: 'UPDATE streams SET snapshot = ?, snapshot_seq = ?, snapshot_version = ? WHERE id = ?',
      values: [JSON.stringify(after), after.seq, streams[kind].reducerVersion, row.id],
    })),
  ]
}

/** Called after commit: the next reader starts from here. */
export function publishState(of: Edition, state: StateOf<StreamKind>): void {
  remember(of, state)
}

export const foldAnew = <K extends StreamKind>(kind: K, id: string, events: StreamEvent[]): StateOf<K> =>
  foldEvents(reducerOf(kind), fresh(kind, id), events)

/** Whether an entry says what its kind says, as a reader here takes it. */
export const isUnderstood = (event: StreamEvent): boolean => understood(reducerOf(event.stream) as StreamReducer<never>, event) !== null

/** Called after the commit of what wrote entries over; other servers see the edition. */
export function dropStates(ids: string[]): void {
  for (const id of ids) cache.delete(id)
}
export function forgetStates(): void {
  cache.clear()
}
