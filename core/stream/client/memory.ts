import type { QueuedCommand, OutboxStorage } from './outbox'

/** An outbox that lasts as long as the program. `room`: entries it holds at most. */
export function memoryOutbox<E extends QueuedCommand>(room = Infinity): OutboxStorage<E> {
  const rows = new Map<number, E>()
  let newest = 0
  return {
    list: (personId) => Promise.resolve([...rows.values()].filter((row) => row.personId === personId).map((row) => structuredClone(row))),
    add(entry) {
      if (rows.size >= room) return Promise.reject(Object.assign(new Error('No room left.'), { name: 'QuotaExceededError' }))
      newest++
      rows.set(newest, { ...structuredClone(entry), key: newest })
      return Promise.resolve(newest)
    },
    change(key, to) {
      const row = rows.get(key)
      if (row) rows.set(key, { ...row, ...structuredClone(to) })
      return Promise.resolve()
    },
    drop(key) {
      rows.delete(key)
      return Promise.resolve()
    },
  }
}
