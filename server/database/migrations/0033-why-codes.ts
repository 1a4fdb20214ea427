import type { QueryInterface } from 'sequelize'

/** Why the office read a code of a home in which it has no visit. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query("ALTER TABLE secret_reads ADD COLUMN reason VARCHAR(200) NOT NULL DEFAULT ''")
}
