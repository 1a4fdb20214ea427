/** What is said and stored of it. */
export * from './open-job.schema'
export * from './schedule-visit.schema'
export * from './move-visit.schema'
export * from './cancel-visit.schema'
export * from './arrive.schema'
export * from './finish-visit.schema'
export * from './resume-visit.schema'
