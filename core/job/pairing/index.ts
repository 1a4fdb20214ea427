/** Joining devices: windows, tries, what was seen and done, what waits, and what is settled before. */
export * from './begin-pairing'
export * from './see-sign'
export * from './try-pairing-step'
export * from './park-unit'
export * from './take-up-unit'
export * from './pause-band'
export * from './restore-band'
export * from './note-accounts'
