import type { QueryInterface } from 'sequelize'

/** What a branch sells and keeps, with prices, numbers under the bars, and where it is bought. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE articles (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, kind VARCHAR(12) NOT NULL, ref_id CHAR(36) NULL, maker VARCHAR(60) NOT NULL, name VARCHAR(80) NOT NULL, gtin VARCHAR(14) NULL, price_cents INT NULL, active TINYINT(1) NOT NULL, data TEXT NOT NULL,
      UNIQUE KEY articles_gtin (branch_id, gtin), UNIQUE KEY articles_ref (branch_id, ref_id), KEY articles_company (company_id), CONSTRAINT articles_branch_fk FOREIGN KEY (branch_id) REFERENCES branches (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
