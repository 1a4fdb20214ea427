/** Units: supply schemes, gauges and rounding. */
export * from './scheme'
export * from './awg'
export * from './round'
export * from './branch-settings'
export * from './default-settings'
export * from './earth-mark'
export * from './typed-number'
export * from './meter-reading'
