import type { Transaction } from 'sequelize'
import { database } from './index'

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

/** Runs statements in order, as one compound statement of MariaDB: the driver needs no leave to take several at once. */
export async function runTogether(statements: Statement[], transaction: Transaction): Promise<void> {
  if (statements.length === 0) return
  await database().sequelize.query(`BEGIN NOT ATOMIC ${statements.map(({ sql }) => `${sql};`).join(' ')} END`, {
    replacements: statements.flatMap(({ values }) => values),
    transaction,
  })
}
