import type { QueryInterface } from 'sequelize'

/** Pictures as they are shown in lists, made once. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query('ALTER TABLE photos ADD COLUMN small MEDIUMBLOB NULL')
}
