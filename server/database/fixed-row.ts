import { QueryTypes, type Sequelize, type Transaction } from 'sequelize'

/** What happens once at a time and has no row of its own yet. */
const fixedRows = ['migrate', 'setUp'] as const
export type FixedRow = (typeof fixedRows)[number]

/** Rows that stand for it. A lock by name would be one node’s own: of three servers on three nodes each would have it. */
export async function makeFixedRows(sequelize: Sequelize): Promise<void> {
  await sequelize.query('CREATE TABLE IF NOT EXISTS fixed_rows (name VARCHAR(40) PRIMARY KEY) ENGINE=InnoDB COLLATE=utf8mb4_unicode_ci')
  const there = await sequelize.query<{ name: string }>('SELECT name FROM fixed_rows', { type: QueryTypes.SELECT })
  // Only what is not there: whoever holds a row lets nobody write it, not even the same.
  const missing = fixedRows.filter((name) => !there.some((row) => row.name === name))
  if (missing.length)
    await sequelize.query('INSERT IGNORE INTO fixed_rows (name) VALUES ?', { replacements: [missing.map((name) => [name])] })
}

/**
 * Holds a fixed row until the transaction ends.
 * @param seconds After so long of waiting for another one the database says that it is locked (1205).
 */
export async function holdFixedRow(sequelize: Sequelize, name: FixedRow, transaction: Transaction, seconds: number): Promise<void> {
  const [row] = await sequelize.query(`SELECT name FROM fixed_rows WHERE name = ? FOR UPDATE WAIT ${Math.ceil(seconds)}`, {
    replacements: [name],
    type: QueryTypes.SELECT,
    transaction,
  })
  if (!row) throw new Error(`The database lacks its row ${name}.`)
}
