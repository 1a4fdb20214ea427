/** What is said and stored of it. */
export * from './observe-live.schema'
export * from './record-cause.schema'
export * from './show-alarm.schema'
export * from './confirm-stopped.schema'
export * from './stop-work.schema'
export * from './tell-stop.schema'
export * from './end-stop.schema'
