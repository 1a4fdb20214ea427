/** Signs of voltage and their causes, alarms, the work stopped. */
export * from './observe-live'
export * from './record-cause'
export * from './show-alarm'
export * from './confirm-stopped'
export * from './stop-work'
export * from './tell-stop'
export * from './end-stop'
