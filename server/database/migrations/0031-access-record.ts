import type { QueryInterface } from 'sequelize'

/** Who logged in, changed accounts and settings, and took files out. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE access_record (
      id CHAR(36) NOT NULL PRIMARY KEY,
      company_id CHAR(36) NOT NULL,
      person_id CHAR(36) NOT NULL,
      deed VARCHAR(20) NOT NULL,
      what VARCHAR(200) NOT NULL,
      ref_id CHAR(36) NULL,
      changes JSON NOT NULL,
      at DATETIME(3) NOT NULL,
      KEY access_record_newest (company_id, id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
