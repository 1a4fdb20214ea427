/** What is said and stored of it. */
export * from './set-routine.schema'
export * from './drop-routine.schema'
export * from './set-behaviour.schema'
export * from './set-habits.schema'
export * from './set-sensor.schema'
export * from './drop-sensor.schema'
export * from './keep-baseline.schema'
export * from './check-alert.schema'
