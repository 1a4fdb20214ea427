/** A motor that must run, watched by what it takes. */
export * from './baseline'
export * from './cusum'
export * from './thresholds'
export * from './trace'
export * from './watch'
