import type { IDBPDatabase, IDBPObjectStore } from 'idb'
import type { QueuedCommand, OutboxStorage } from '../../core/stream/client'

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

/** An outbox in the browser's own database. Keys grow: what is listed is in the order in which it was kept. */
export function indexedDbOutbox<E extends QueuedCommand>(opened: () => Promise<IDBPDatabase>): OutboxStorage<E> {
  return {
    list: async (personId) => (await opened()).getAllFromIndex('entries', 'personId', personId),
    add: async (entry) => (await writeThrough(await opened(), 'entries', (to) => to.add(entry))) as number,
    change: async (key, to) =>
      void (await writeThrough(await opened(), 'entries', async (store) => {
        const entry = (await store.get(key)) as E | undefined
        if (entry) await store.put({ ...entry, ...to })
      })),
    drop: async (key) => writeThrough(await opened(), 'entries', (store) => store.delete(key)),
  }
}
