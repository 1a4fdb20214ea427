import type { QueryInterface } from 'sequelize'

const end = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'
const statements = [
  'ALTER TABLE visits ADD COLUMN set_off_at DATETIME(3) NULL, ADD COLUMN expected_at DATETIME(3) NULL',
  // What is written to customers, and what became of it.
  `CREATE TABLE messages (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, visit_id CHAR(36) NOT NULL, purpose VARCHAR(12) NOT NULL, channel VARCHAR(8) NOT NULL, customer VARCHAR(120) NOT NULL, recipient VARCHAR(200) NOT NULL, subject VARCHAR(200) NOT NULL, body TEXT NOT NULL, made_by CHAR(36) NOT NULL, made_at DATETIME(3) NOT NULL, state VARCHAR(8) NOT NULL, tries INT NOT NULL, sent_at DATETIME(3) NULL, answer VARCHAR(200) NOT NULL,
    KEY messages_branch (branch_id, made_at), KEY messages_visit (visit_id), KEY messages_state (state), CONSTRAINT messages_job_fk FOREIGN KEY (job_id) REFERENCES jobs (id)) ${end}`,
  // What a customer’s page of a visit holds besides the visit.
  `CREATE TABLE visit_pages (visit_id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, ticks TEXT NOT NULL, offers MEDIUMTEXT NOT NULL, offered_by CHAR(36) NULL, offered_at DATETIME(3) NULL, chosen_at DATETIME(3) NULL) ${end}`,
]
/** Crews on their way, messages to customers and their pages. */
export async function up(query: QueryInterface): Promise<void> {
  for (const statement of statements) await query.sequelize.query(statement)
}
