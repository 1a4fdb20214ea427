import Papa from 'papaparse'
import { z } from 'zod'
import { typedNumber } from '../units/typed-number'
import type { FileProblem } from './job-file'

/** A cell as it is written, and how one is read. Names stand for keys: a room, a box in it, a {breaker} of a {panel}. */
export const text = (most: number) => z.string().trim().max(most, `has at most ${most} letters`)
export const name = text(80).min(1, 'is empty')
export const number = z
  .string()
  .transform(typedNumber)
  .refine((value) => Number.isFinite(value), 'expects a number')
export const optional = (column: z.ZodType<number, string>) =>
  z
    .string()
    .trim()
    .transform((cell, context) => {
      if (cell === '') return null
      const read = column.safeParse(cell)
      if (read.success) return read.data
      context.addIssue({ code: 'custom', message: read.error.issues[0]!.message })
      return z.NEVER
    })
export const whole = z
  .string()
  .trim()
  .regex(/^[-−]?\d+$/, 'expects a whole number')
  .transform(typedNumber)
export const pick = <T extends readonly string[]>(values: T) =>
  z.enum(values as never as [T[number], ...T[number][]], `expects one of ${values.join(', ')}`)
export const pickOrNothing = <T extends readonly string[]>(values: T) =>
  z
    .string()
    .trim()
    .refine((cell) => cell === '' || values.includes(cell), `expects one of ${values.join(', ')}, or nothing`)
    .transform((cell) => (cell === '' ? null : (cell as T[number])))
const truths: Record<string, boolean> = {
  yes: true,
  y: true,
  true: true,
  '1': true,
  no: false,
  n: false,
  false: false,
  '0': false,
  '': false,
}
export const yesNo = z
  .string()
  .trim()
  .toLowerCase()
  .refine((cell) => cell in truths, 'expects yes or no')
  .transform((cell) => truths[cell]!)
/** How `yesNo` reads it again. */
export const says = (value: boolean) => (value ? 'yes' : 'no')
/** Several values in one cell, with semicolons between, or what else is not in them. */
export const list = <T>(inner: z.ZodType<T, string>, between = ';') =>
  z.string().transform((cell, context): T[] =>
    cell
      .split(between)
      .map((part) => part.trim())
      .filter(Boolean)
      .flatMap((part) => {
        const read = inner.safeParse(part)
        if (read.success) return [read.data]
        context.addIssue({ code: 'custom', message: `${read.error.issues[0]!.message}, not “${part}”` })
        return []
      }),
  )

/** Letters of the line that names the columns. */
const longestHeader = 20_000
/** A table has at most so many rows, and so much of what is wrong in it is said: more helps nobody, and keeps others waiting. */
export const mostRows = 5_000
const mostProblems = 200

/** What a spreadsheet takes for the beginning of a formula, the wide signs of other keyboards among it. */
export const formula = /^[=+\-@\t\r＝＋－＠]/
/** What a spreadsheet's guard put before a cell. */
const unguarded = (cell: string) => (cell.startsWith("'") && formula.test(cell.slice(1)) ? cell.slice(1) : cell)
type Columns = Record<string, z.ZodType<unknown, string>>
/** A row of a table with these columns, and the line it stands on. */
export type RowOf<C extends Columns> = { [K in keyof C]: C[K] extends z.ZodType<infer V> ? V : never } & { line: number }
/**
 * A table with a header line: its columns, named in small letters, and its rows as they were written, without what a spreadsheet’s
 * guard put before a cell.
 * @param most so many rows are read at most
 */
export function tableIn(source: string, most?: number) {
  const end = source.indexOf('\n')
  // No list of columns: naming hundreds of thousands of them apart takes seconds.
  if ((end < 0 ? source.length : end) > longestHeader) return { rows: [], fields: [], errors: [] }
  const { data, meta, errors } = Papa.parse<Record<string, string>>(source.replace(/^\uFEFF/, ''), {
    ...{ header: true, skipEmptyLines: 'greedy', preview: most },
    transformHeader: (header) => header.trim().toLowerCase(),
    transform: unguarded,
  })
  return { rows: data, fields: meta.fields ?? [], errors }
}
/**
 * Reads the rows of one table; what is wrong is added to `problems`, with its line, and its file where that has a name.
 * @param later columns that tables of earlier programs do not have: read as empty
 */
export function readRows<C extends Columns>(
  columns: C,
  fileName: string,
  source: string,
  problems: FileProblem[],
  later: readonly (keyof C & string)[] = [],
): RowOf<C>[] {
  const { rows, fields, errors } = tableIn(source, mostRows + 1)
  const names = Object.keys(columns)
  const where = (line: number) => (fileName ? `${fileName}, line ${line}` : `line ${line}`)
  const missing = names.filter((column) => !fields.includes(column) && !later.includes(column))
  if (missing.length) {
    problems.push({ where: where(1), problem: `Missing columns: ${missing.join(', ')}.` })
    return []
  }
  if (rows.length > mostRows) {
    problems.push({ where: fileName || where(mostRows), problem: `This table has more than ${mostRows} rows. Give it in parts.` })
    return []
  }
  const broken = new Set<number>()
  for (const error of errors.slice(0, mostProblems - problems.length)) {
    const line = (error.row ?? 0) + 2
    if (error.code === 'UndetectableDelimiter') continue
    broken.add(line)
    const said = error.code === 'TooFewFields' ? 'Too few fields.' : error.code === 'TooManyFields' ? 'Too many fields.' : error.message
    problems.push({ where: where(line), problem: said })
  }
  const schema = z.object(columns as Columns)
  return rows.flatMap((raw, index): RowOf<C>[] => {
    const line = index + 2
    if (broken.has(line) || problems.length > mostProblems) return []
    if (problems.length === mostProblems) {
      problems.push({ where: where(line), problem: 'So much is wrong that it was not read from here on. Mend what is said first.' })
      return []
    }
    const row = schema.safeParse(Object.fromEntries(names.map((column) => [column, raw[column] ?? ''])))
    if (row.success) return [{ ...row.data, line } as RowOf<C>]
    for (const issue of row.error.issues) problems.push({ where: where(line), problem: `${String(issue.path[0])} ${issue.message}.` })
    return []
  })
}
/** One table as CSV. A spreadsheet takes no cell of it for a formula. */
export const writeRows = (fields: string[], rows: object[]): string =>
  `${Papa.unparse({ fields, data: rows as never }, { escapeFormulae: formula, newline: '\n' })}\n`
