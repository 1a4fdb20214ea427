import type { QueryInterface } from 'sequelize'

/** PINs for a mate's device, who is where, and who works alone. */
export async function up(query: QueryInterface): Promise<void> {
  const statements = [
    'ALTER TABLE people ADD COLUMN pin_hash VARCHAR(255) NULL, ADD COLUMN pin_failures INT NOT NULL DEFAULT 0, ADD COLUMN pin_locked_until DATETIME(3) NULL',
    `CREATE TABLE presence (person_id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, place VARCHAR(50) NOT NULL, connected TINYINT(1) NOT NULL, seen_at DATETIME(3) NOT NULL,
      KEY presence_site (site_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
    `CREATE TABLE solo_watches (site_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, name VARCHAR(120) NOT NULL, contact VARCHAR(120) NOT NULL, due_at DATETIME(3) NOT NULL,
      PRIMARY KEY (site_id, person_id), KEY solo_watches_company (company_id, due_at)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  ]
  for (const statement of statements) await query.sequelize.query(statement)
}
