/** What is said and stored of it. */
export * from './establish-role.schema'
export * from './note-found.schema'
export * from './read-wires.schema'
export * from './forget-readings.schema'
export * from './plan-wiring.schema'
export * from './observe-functions.schema'
