/** What is said and stored of it. */
export * from './lay-out.schema'
export * from './set-feeds.schema'
export * from './tie-neutrals.schema'
export * from './record-conductors.schema'
export * from './record-source.schema'
export * from './record-source-point.schema'
export * from './rule-out-source.schema'
