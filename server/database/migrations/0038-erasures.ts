import type { QueryInterface } from 'sequelize'

/** Customers and pictures that were erased, how often a record was written over, and how long a company keeps what it has. */
export async function up(query: QueryInterface): Promise<void> {
  for (const sql of [
    `CREATE TABLE erasures (id CHAR(36) NOT NULL, company_id CHAR(36) NOT NULL, kind VARCHAR(12) NOT NULL, ref_id CHAR(36) NOT NULL, job_id CHAR(36) NULL, person_id CHAR(36) NOT NULL, at DATETIME(3) NOT NULL,
      PRIMARY KEY (id), UNIQUE KEY erasures_ref (ref_id), KEY erasures_company (company_id, at)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
    'ALTER TABLE streams ADD COLUMN edition INT NOT NULL DEFAULT 0, ADD COLUMN erased_at DATETIME(3) NULL',
    'ALTER TABLE customers ADD COLUMN erased_at DATETIME(3) NULL',
    'ALTER TABLE sites ADD COLUMN erased_at DATETIME(3) NULL',
    'ALTER TABLE companies ADD COLUMN keep_customers_years INT NULL, ADD COLUMN keep_pictures_years INT NULL',
  ])
    await query.sequelize.query(sql)
}
