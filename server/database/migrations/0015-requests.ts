import type { QueryInterface } from 'sequelize'

/** What people ask of the dispatcher: time off, and to hand a visit over; and the link to a person’s calendar. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE requests (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, kind VARCHAR(8) NOT NULL, starts_at DATETIME(3) NOT NULL, ends_at DATETIME(3) NOT NULL, visit_id CHAR(36) NULL, job_id CHAR(36) NULL, other_id CHAR(36) NULL, note VARCHAR(500) NOT NULL, state VARCHAR(10) NOT NULL, uid CHAR(64) NULL, asked_by CHAR(36) NOT NULL, asked_at DATETIME(3) NOT NULL, decided_by CHAR(36) NULL, decided_at DATETIME(3) NULL, answer VARCHAR(500) NOT NULL,
      KEY requests_branch (branch_id, state, ends_at), KEY requests_person (person_id, state, ends_at), UNIQUE KEY requests_uid (person_id, uid), CONSTRAINT requests_person_fk FOREIGN KEY (person_id) REFERENCES people (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
  await query.sequelize.query(
    'CREATE TABLE calendar_links (person_id CHAR(36) NOT NULL PRIMARY KEY, epoch INT NOT NULL, CONSTRAINT calendar_links_person_fk FOREIGN KEY (person_id) REFERENCES people (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci',
  )
}
