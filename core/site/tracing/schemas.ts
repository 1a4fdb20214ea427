/** What is said and stored of it. */
export * from './observe-round.schema'
export * from './take-back-round.schema'
export * from './scope-hunt.schema'
export * from './forget-rounds.schema'
