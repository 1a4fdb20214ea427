/** The job and its visits. */
export * from './open-job'
export * from './schedule-visit'
export * from './move-visit'
export * from './cancel-visit'
export * from './arrive'
export * from './finish-visit'
export * from './resume-visit'
