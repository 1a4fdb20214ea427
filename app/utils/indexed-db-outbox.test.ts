import 'fake-indexeddb/auto'
import { openDB } from 'idb'
import { describeOutboxStorage } from '../../core/stream/client/testing/outbox-conformance'
import { indexedDbOutbox, makeOutboxStore } from './indexed-db-outbox'

let opened = 0
describeOutboxStorage('the browser’s database', () => {
  const base = openDB(`outbox ${++opened}`, 1, { upgrade: makeOutboxStore })
  return indexedDbOutbox(() => base)
})
