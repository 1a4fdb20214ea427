import type { QueryInterface } from 'sequelize'

/** The page of a home is sent without a visit. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query('ALTER TABLE messages MODIFY visit_id CHAR(36) NULL')
}
