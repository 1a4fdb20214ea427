/** Plates off and on, guards, neutrals parted. */
export * from './open-box'
export * from './look-in'
export * from './close-box'
export * from './undo-close'
export * from './make-safe'
export * from './take-over-guard'
export * from './open-neutral'
export * from './test-parted'
