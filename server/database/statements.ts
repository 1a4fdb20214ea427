import type { Transaction } from 'sequelize'
import { database } from './index'
import type { Column, RowOf, TableOf } from './tables/columns'

/** One statement with its values. Sequelize’s own calls are one round trip each; what one command writes is one for all. */
export interface Statement {
  sql: string
  values: unknown[]
}

/** @param rows values in the order of `columns` */
export const insertInto = (table: string, columns: string[], rows: unknown[][]): Statement => ({
  sql: `INSERT INTO ${table} (${columns.join(', ')}) VALUES ${rows.map(() => `(${columns.map(() => '?').join(', ')})`).join(', ')}`,
  values: rows.flat(),
})

const columnOf = (name: string) => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)
type Columns = Record<string, Column<unknown>>
const valuesOf = <C extends Columns>({ columns }: TableOf<C>, row: RowOf<TableOf<C>>) =>
  Object.keys(columns).map((name) => (row as Record<string, unknown>)[name])

/** New rows; one that meets another of its key makes all fail. */
export const insertRows = <C extends Columns>(table: TableOf<C>, rows: RowOf<TableOf<C>>[]): Statement[] =>
  rows.length
    ? [
        insertInto(
          table.name,
          Object.keys(table.columns).map(columnOf),
          rows.map((row) => valuesOf(table, row)),
        ),
      ]
    : []
/** Rows that are there, written whole. */
export const updateRows = <C extends Columns & { id: Column<string> }>(table: TableOf<C>, rows: RowOf<TableOf<C>>[]): Statement[] =>
  rows.map((row) => ({
    sql: `UPDATE ${table.name} SET ${Object.keys(table.columns)
      .map((name) => `${columnOf(name)} = ?`)
      .join(', ')} WHERE id = ?`,
    values: [...valuesOf(table, row), (row as { id: string }).id],
  }))
export const deleteRows = <C extends Columns>(table: TableOf<C>, column: keyof C & string, values: string[]): Statement[] =>
  values.length ? [{ sql: `DELETE FROM ${table.name} WHERE ${columnOf(column)} IN (?)`, values: [values] }] : []

/** Runs statements in order, as one compound statement of MariaDB: the driver needs no leave to take several at once. */
export async function runTogether(statements: Statement[], transaction: Transaction): Promise<void> {
  if (statements.length === 0) return
  await database().sequelize.query(`BEGIN NOT ATOMIC ${statements.map(({ sql }) => `${sql};`).join(' ')} END`, {
    replacements: statements.flatMap(({ values }) => values),
    transaction,
  })
}
