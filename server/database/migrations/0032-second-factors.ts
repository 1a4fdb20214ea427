import type { QueryInterface } from 'sequelize'

/** What a person’s other device makes codes from, sealed; in use once one of its codes was right. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE second_factors (
      person_id CHAR(36) NOT NULL PRIMARY KEY,
      company_id CHAR(36) NOT NULL,
      secret_sealed VARCHAR(300) NOT NULL,
      used_step BIGINT NOT NULL DEFAULT 0,
      on_since DATETIME(3) NULL,
      KEY second_factors_company (company_id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
