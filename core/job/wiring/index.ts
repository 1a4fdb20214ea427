/** What each conductor is, and how the box is to be wired. */
export * from './establish-role'
export * from './note-found'
export * from './read-wires'
export * from './forget-readings'
export * from './plan-wiring'
export * from './observe-functions'
