/** The day board: a branch’s day as a problem, how it will go, and what a plan would change. */
export * from './day-file'
export * from './needs'
export * from './crews'
export * from './problem'
export * from './outlook'
export * from './proposal'
export * from './twice'
export * from './week'
