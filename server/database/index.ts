/** Database: connection, schema and tables. Only services use it. */
import type { Sequelize, Transaction } from 'sequelize'
import { connect, databaseSettings } from './connection'
import { defineModels, type Models } from './models'
import { transact } from './transact'

export interface Database {
  sequelize: Sequelize
  models: Models
}

let opened: Database | null = null

/** The one database of this process, opened at first use. */
export function database(): Database {
  if (!opened) {
    const sequelize = connect(databaseSettings())
    opened = { sequelize, models: defineModels(sequelize) }
  }
  return opened
}

/** In one transaction of this process’s database, and anew where another one stood in its way. */
export const transacted = <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> => transact(database().sequelize, work)

export async function closeDatabase(): Promise<void> {
  const closing = opened
  opened = null
  await closing?.sequelize.close()
}

export { joined } from './joined'
export * from './models'
export { migrate, needMigrated, unitPlacesName } from './migrate'
