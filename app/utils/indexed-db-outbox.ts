import type { IDBPDatabase, IDBPObjectStore } from 'idb'
import type { QueuedCommand, OutboxStorage } from '../../core/stream/client'
import { openValue, sealValue, type SealedValue } from './sealing'

/** One write, through to the disk: it counts as stored when this returns. */
export async function writeThrough<T>(base: IDBPDatabase, store: string, write: (to: WritableStore) => Promise<T>): Promise<T> {
  const transaction = base.transaction(store, 'readwrite', { durability: 'strict' })
  const [written] = await Promise.all([write(transaction.store), transaction.done])
  return written
}
type WritableStore = IDBPObjectStore<unknown, [string], string, 'readwrite'>

/** What an outbox needs of the database, when it is made. */
export function makeOutboxStore(base: IDBPDatabase): void {
  base.createObjectStore('entries', { keyPath: 'key', autoIncrement: true }).createIndex('personId', 'personId')
}

/** What an entry is sealed with, and what stands in the list for one that this key does not open. */
export interface Sealing<E> {
  /** The key of a person as this device has it: no network is asked, for somebody is waiting. null: kept open until there is one. */
  here: (personId: string) => Promise<CryptoKey | null>
  /** The same, and where this device has none, their login is asked. */
  anywhere: (personId: string) => Promise<CryptoKey | null>
  lost: (entry: { key: number; personId: string }) => E
}
interface SealedRow {
  key?: number
  personId: string
  sealed: SealedValue
}
/** Sealed entries whose person has no key here: they are there, and nobody can say what they are. */
export class NoKey extends Error {}

/** An outbox in the browser's own database. Keys grow: what is listed is in the order in which it was kept. */
export function indexedDbOutbox<E extends QueuedCommand>(
  opened: () => Promise<IDBPDatabase>,
  sealing: Sealing<E> | null = null,
): OutboxStorage<E> {
  async function sealedRow({ key, ...entry }: E, by: CryptoKey): Promise<SealedRow> {
    const row: SealedRow = { personId: entry.personId, sealed: await sealValue(by, entry.personId, entry) }
    return key === undefined ? row : { ...row, key }
  }
  async function entryIn({ key, personId, sealed }: SealedRow, by: CryptoKey): Promise<E> {
    try {
      return { ...((await openValue(by, personId, sealed)) as E), key }
    } catch {
      return sealing!.lost({ key: key!, personId })
    }
  }
  const isSealed = (row: E | SealedRow): row is SealedRow => 'sealed' in row
  /** Written only where it still stands: it may have gone out meanwhile, from another window. */
  const putBack = async (row: E | SealedRow) =>
    void (await writeThrough(await opened(), 'entries', async (store) => {
      if ((await store.getKey(row.key as unknown as string)) !== undefined) await store.put(row)
    }))
  return {
    async list(personId) {
      const rows = (await (await opened()).getAllFromIndex('entries', 'personId', personId)) as (E | SealedRow)[]
      if (!sealing || !rows.length) return rows as E[]
      const by = await sealing.anywhere(personId)
      if (!by && rows.some(isSealed)) throw new NoKey('There is no key for what is sealed here.')
      const entries: E[] = []
      for (const row of rows) {
        entries.push(isSealed(row) ? await entryIn(row, by!) : row)
        // Kept before there was a key.
        if (by && !isSealed(row)) await putBack(await sealedRow(row, by))
      }
      return entries
    },
    async add(entry) {
      const by = await sealing?.here(entry.personId)
      const row = by ? await sealedRow(entry, by) : entry
      return (await writeThrough(await opened(), 'entries', (to) => to.add(row))) as number
    },
    async change(key, to) {
      const row = (await (await opened()).get('entries', key)) as E | SealedRow | undefined
      if (!row) return
      const by = isSealed(row) ? await sealing?.anywhere(row.personId) : null
      if (isSealed(row) && !by) throw new NoKey('There is no key for what is sealed here.')
      const kept = isSealed(row) ? await openValue(by!, row.personId, row.sealed).catch(() => null) : row
      // Nobody can open it: it stays as it is, until it is dropped.
      if (!kept) return
      const entry = { ...(kept as E), key, ...to }
      await putBack(by ? await sealedRow(entry, by) : entry)
    },
    drop: async (key) => writeThrough(await opened(), 'entries', (store) => store.delete(key)),
  }
}
