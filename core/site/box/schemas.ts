/** What is said and stored of it. */
export * from './open-box.schema'
export * from './look-in.schema'
export * from './close-box.schema'
export * from './undo-close.schema'
export * from './guard-box.schema'
export * from './take-over-guard.schema'
export * from './part-neutral.schema'
export * from './test-parted.schema'
