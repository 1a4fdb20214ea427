/** What is said and stored of it. */
export * from './begin-pairing.schema'
export * from './see-sign.schema'
export * from './try-pairing-step.schema'
export * from './park-unit.schema'
export * from './take-up-unit.schema'
export * from './pause-band.schema'
export * from './restore-band.schema'
export * from './note-accounts.schema'
