/** What is said and stored of it. */
export * from './open-box.schema'
export * from './look-in.schema'
export * from './close-box.schema'
export * from './undo-close.schema'
export * from './make-safe.schema'
export * from './take-over-guard.schema'
export * from './open-neutral.schema'
export * from './test-parted.schema'
