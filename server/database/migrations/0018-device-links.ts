import type { QueryInterface } from 'sequelize'

const options = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'

/** Laptops that reach devices in homes, which of them holds the installer of which job, and what they are asked. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE device_links (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, name VARCHAR(60) NOT NULL, made_by CHAR(36) NOT NULL, made_at DATETIME(3) NOT NULL,
      code_hash CHAR(64) NULL, code_until DATETIME(3) NOT NULL, key_hash CHAR(64) NULL, paired_at DATETIME(3) NULL, seen_at DATETIME(3) NULL, ended_at DATETIME(3) NULL,
      UNIQUE KEY device_links_code (code_hash), KEY device_links_company (company_id, ended_at)) ${options}`,
  )
  await query.sequelize.query(
    `CREATE TABLE device_fabrics (job_id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, link_id CHAR(36) NOT NULL, seal VARCHAR(255) NOT NULL, opened_at DATETIME(3) NOT NULL, emptied_at DATETIME(3) NULL,
      KEY device_fabrics_link (link_id, emptied_at)) ${options}`,
  )
  await query.sequelize.query(
    `CREATE TABLE link_asks (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, unit_id CHAR(36) NOT NULL, link_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL,
      doing VARCHAR(8) NOT NULL, state VARCHAR(8) NOT NULL, said VARCHAR(600) NOT NULL DEFAULT '', asked_at DATETIME(3) NOT NULL, taken_at DATETIME(3) NULL, done_at DATETIME(3) NULL,
      KEY link_asks_link (link_id, state, asked_at), KEY link_asks_job (job_id, asked_at)) ${options}`,
  )
}
