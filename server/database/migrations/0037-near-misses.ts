import type { QueryInterface } from 'sequelize'

/** What was refused before it could hurt somebody, and proofs that ended under somebody’s hands: kept as they happen, from now on. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE near_misses (id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, kind VARCHAR(12) NOT NULL, code VARCHAR(40) NOT NULL, at DATETIME(3) NOT NULL,
      PRIMARY KEY (id, site_id), KEY near_misses_company (company_id, at)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
