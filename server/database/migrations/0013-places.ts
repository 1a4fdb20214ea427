import type { QueryInterface } from 'sequelize'

/** Where somebody showed a home to be; without it, it follows from the address. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query('ALTER TABLE sites ADD COLUMN longitude DOUBLE NULL, ADD COLUMN latitude DOUBLE NULL')
}
