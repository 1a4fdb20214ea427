import type { QueryInterface } from 'sequelize'

/** What the meter of a linked device read, as JSON. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query('ALTER TABLE link_asks ADD COLUMN trace MEDIUMTEXT NULL')
}
