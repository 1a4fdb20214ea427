/** Database: connection, schema and tables. Only services use it. */
import type { Sequelize } from 'sequelize'
import { connect, databaseSettings } from './connection'
import { defineModels, type Models } from './models'

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

export async function closeDatabase(): Promise<void> {
  const closing = opened
  opened = null
  await closing?.sequelize.close()
}

export { joined } from './joined'
export * from './models'
export { migrate, unitPlacesName } from './migrate'
