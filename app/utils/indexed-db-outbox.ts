import type { Table } from 'dexie'
import type { Kept, OutboxStorage } from '../../core/stream/client'

/** An outbox in the browser's own database, written through to the disk. */
export function indexedDbOutbox<E extends Kept>(table: () => Promise<Table<E, number>>): OutboxStorage<E> {
  return {
    list: async (personId) => (await table()).where('personId').equals(personId).sortBy('key'),
    add: async (entry) => (await table()).add(entry),
    change: async (key, to) => void (await (await table()).update(key, to as never)),
    drop: async (key) => (await table()).delete(key),
  }
}
