import type { QueryInterface } from 'sequelize'

/** Where a unit sits, in words: found by its room when the customer calls. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query("ALTER TABLE units ADD COLUMN place VARCHAR(200) NOT NULL DEFAULT ''")
}
