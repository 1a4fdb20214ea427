/** What came back, its cause and its remedy. */
export * from './open-callback'
export * from './solve-callback'
export * from './hear-back'
export * from './diagnose-callback'
export * from './replace-unit'
export * from './close-callback'
