/** What is said and stored of it. */
export * from './open-callback.schema'
export * from './solve-callback.schema'
export * from './hear-back.schema'
export * from './diagnose-callback.schema'
export * from './replace-unit.schema'
export * from './close-callback.schema'
