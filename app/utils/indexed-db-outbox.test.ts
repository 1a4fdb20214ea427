import { IDBKeyRange, indexedDB } from 'fake-indexeddb'
import { Dexie, type Table } from 'dexie'
import type { Kept } from '../../core/stream/client'
import { describeOutboxStorage } from '../../core/stream/client/testing/outbox-conformance'
import { indexedDbOutbox } from './indexed-db-outbox'

let opened = 0
describeOutboxStorage('the browser’s database', () => {
  const base = new Dexie(`outbox ${++opened}`, { indexedDB, IDBKeyRange })
  base.version(1).stores({ entries: '++key, personId' })
  return indexedDbOutbox(() => Promise.resolve(base.table('entries') as Table<Kept & { text: string }, number>))
})
