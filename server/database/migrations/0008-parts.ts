import type { QueryInterface } from 'sequelize'

/** Boxes, plates, connectors and lamps of a company, beside its device models. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE parts (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, kind VARCHAR(12) NOT NULL, maker VARCHAR(60) NOT NULL, name VARCHAR(80) NOT NULL, active TINYINT(1) NOT NULL, data TEXT NOT NULL,
      KEY parts_company (company_id), CONSTRAINT parts_company_fk FOREIGN KEY (company_id) REFERENCES companies (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
