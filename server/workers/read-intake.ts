import { readJobFile, readPointsCsv, readSurveyTables, type FileReading, type JobFile } from '../../core/format'
import type { IntakeSource } from '../../core/protocol'

/** What a file, a form or tables say of a home. */
export function readIntake(source: IntakeSource): FileReading<JobFile> {
  if (source.kind === 'tables') return readSurveyTables(source.tables, source.head)
  if (source.kind === 'csv') return readPointsCsv(source.text, source.head)
  return readJobFile(source.kind === 'json' ? source.text : JSON.stringify(source.file))
}
