import { surveyColumns, surveyTableNames, type SurveyTable } from '../../core/format/survey-columns'

/** What was chosen to be imported: one text, or the tables of a survey by name. */
export interface IntakeFiles {
  text: string
  isCsv: boolean
  tables: { name: string; text: string }[]
}
/** A table of a survey by its name; of points by its columns too: a list of points is often called so. */
function isTable(name: string, text: string): boolean {
  const table = name.toLowerCase().replace(/\.csv$/, '') as SurveyTable
  if (table !== 'points') return surveyTableNames.includes(table)
  const [head = ''] = text.replace(/^\uFEFF/, '').split(/\r?\n/, 1)
  const columns = head
    .toLowerCase()
    .split(/[,;\t]/)
    .map((column) => column.trim().replaceAll('"', ''))
  return surveyColumns(table).every((column) => columns.includes(column))
}

/** Reads what somebody chose: a file, several tables, or an archive of them. Throws where an archive is none. */
export async function readIntakeFiles(files: File[]): Promise<IntakeFiles> {
  const [first] = files
  if (first && files.length === 1 && /\.zip$/i.test(first.name)) {
    const { strFromU8, unzipSync } = await import('fflate')
    // A survey has some ten small tables: what is larger is something else.
    const entries = unzipSync(new Uint8Array(await first.arrayBuffer()), { filter: ({ originalSize }) => originalSize < 2_000_000 })
    const tables = Object.entries(entries).flatMap(([path, bytes]) =>
      /\.csv$/i.test(path) ? [{ name: path, text: strFromU8(bytes) }] : [],
    )
    if (tables.length === 0) throw new Error('no tables')
    return { text: '', isCsv: false, tables: tables.slice(0, 20) }
  }
  const isCsv = first !== undefined && (/\.csv$/i.test(first.name) || first.type === 'text/csv')
  if (files.length > 1 || (first && isCsv && isTable(first.name, await first.text())))
    return {
      text: '',
      isCsv: false,
      tables: await Promise.all(files.slice(0, 20).map(async (file) => ({ name: file.name, text: await file.text() }))),
    }
  return { text: (await first?.text()) ?? '', isCsv, tables: [] }
}
