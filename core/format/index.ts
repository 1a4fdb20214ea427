/** Open formats: the job file (JSON) and the CSV of points. */
export * from './job-file'
export * from './points-csv'
export * from './to-commands'
