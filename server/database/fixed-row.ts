import { QueryTypes, type Sequelize, type Transaction } from 'sequelize'

/**
 * Rows that stand for what happens once at a time where there is no row of its own yet. A lock by name would be one node’s own: of
 * three servers on three nodes each would have it.
 */
export const makeFixedRows = (sequelize: Sequelize) =>
  sequelize.query('CREATE TABLE IF NOT EXISTS fixed_rows (name VARCHAR(40) PRIMARY KEY) ENGINE=InnoDB COLLATE=utf8mb4_unicode_ci')

/**
 * Holds a fixed row until the transaction ends.
 * @param seconds After so long of waiting for another one the database says that it is locked (1205).
 */
export async function holdFixedRow(sequelize: Sequelize, name: string, transaction: Transaction, seconds: number): Promise<void> {
  const there = await sequelize.query('SELECT name FROM fixed_rows WHERE name = ?', { replacements: [name], type: QueryTypes.SELECT })
  // Not in the transaction: two that make it would each wait for the other to let go.
  if (!there.length) await sequelize.query('INSERT IGNORE INTO fixed_rows (name) VALUES (?)', { replacements: [name] })
  await sequelize.query(`SELECT name FROM fixed_rows WHERE name = ? FOR UPDATE WAIT ${Math.ceil(seconds)}`, {
    replacements: [name],
    type: QueryTypes.SELECT,
    transaction,
  })
}
