/** What a device does with a record: a copy that catches up, an outbox, one's own unsent entries on top. */
export * from './record-copy'
export * from './outbox'
export * from './submit'
export * from './awaiting-outcome'
export * from './memory'
export * from './unsent'
