import type { QueryInterface } from 'sequelize'

/** Offers to customers, and changes of what was agreed. What was offered is kept as it was. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE quotes (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, kind VARCHAR(8) NOT NULL, version INT NOT NULL, number VARCHAR(20) NOT NULL, status VARCHAR(12) NOT NULL,
      token_hash CHAR(64) NOT NULL, token_sealed VARCHAR(255) NOT NULL, content MEDIUMTEXT NOT NULL, ticks TEXT NULL, total_cents INT NULL, signer VARCHAR(80) NULL, strokes MEDIUMTEXT NULL, reason VARCHAR(500) NOT NULL, made_by CHAR(36) NOT NULL, made_at DATETIME(3) NOT NULL, valid_until DATE NOT NULL, decided_at DATETIME(3) NULL,
      UNIQUE KEY quotes_token (token_hash), UNIQUE KEY quotes_version (job_id, kind, version), KEY quotes_company (company_id, status), CONSTRAINT quotes_job_fk FOREIGN KEY (job_id) REFERENCES jobs (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
