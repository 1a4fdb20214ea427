/** What is said and stored of it. */
export * from './observe-round.schema'
export * from './take-back-round.schema'
export * from './scope-tracing.schema'
export * from './forget-rounds.schema'
