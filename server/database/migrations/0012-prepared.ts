import type { QueryInterface } from 'sequelize'

/** What shops have seen of devices, by serial: follows from the records of jobs. What failed for one goes into no wall of another. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE prepared_units (job_id CHAR(36) NOT NULL, serial VARCHAR(60) NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, failed VARCHAR(2000) NULL, made_at DATETIME(3) NOT NULL,
    PRIMARY KEY (job_id, serial), KEY prepared_units_serial (company_id, serial)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
