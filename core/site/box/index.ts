/** Plates off and on, guards, neutrals parted. */
export * from './open-box'
export * from './look-in'
export * from './close-box'
export * from './undo-close'
export * from './guard-box'
export * from './take-over-guard'
export * from './part-neutral'
export * from './test-parted'
