import type { QueryInterface } from 'sequelize'

/** How each device joined: what a company learns of its models. It follows from the record of the job. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE pairings (unit_id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, model_id CHAR(36) NOT NULL,
      radio VARCHAR(8) NOT NULL, cause VARCHAR(16) NULL, seconds INT NULL,
      KEY pairings_company (company_id, model_id), KEY pairings_job (job_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
