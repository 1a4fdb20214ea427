/** Open formats: the job file (JSON) and the CSV of points. */
export * from './job-file'
export * from './points-csv'
export * from './visits-csv'
export * from './to-commands'
export * from './from-record'
export { surveyTableNames, type SurveyTable } from './survey-columns'
export * from './write-tables'
export * from './read-tables'
