import type { QueryInterface } from 'sequelize'

/** Alarms that wait for their person on any device; testers that fail and come back; kinds of tester. */
export async function up(query: QueryInterface): Promise<void> {
  const statements = [
    `CREATE TABLE open_alarms (site_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, seq INT NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, what VARCHAR(40) NOT NULL, reported_by VARCHAR(120) NOT NULL, place VARCHAR(200) NOT NULL, at DATETIME(3) NOT NULL, shown_at DATETIME(3) NULL,
      PRIMARY KEY (site_id, person_id, seq), KEY open_alarms_person (person_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
    `ALTER TABLE instruments MODIFY kind VARCHAR(12) NOT NULL, ADD COLUMN lowest_step_volts INT NULL, ADD COLUMN out_of_service TINYINT(1) NOT NULL DEFAULT 0, ADD COLUMN failed_why VARCHAR(500) NOT NULL DEFAULT '', ADD COLUMN proved_good_at DATETIME(3) NULL, ADD COLUMN service_note VARCHAR(500) NOT NULL DEFAULT ''`,
  ]
  for (const statement of statements) await query.sequelize.query(statement)
}
