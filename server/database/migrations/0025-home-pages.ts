import type { QueryInterface } from 'sequelize'

/** The page that a household keeps of its home: until when, which link opens it, and the PIN that shows its codes. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE home_pages (job_id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, request_id CHAR(36) NOT NULL, epoch INT NOT NULL, until DATETIME(3) NOT NULL, pin_hash VARCHAR(255) NULL, made_by CHAR(36) NOT NULL, made_at DATETIME(3) NOT NULL, opened_at DATETIME(3) NULL, codes_read_at DATETIME(3) NULL, codes_read INT NOT NULL DEFAULT 0,
      CONSTRAINT home_pages_job_fk FOREIGN KEY (job_id) REFERENCES jobs (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
