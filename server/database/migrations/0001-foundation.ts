import type { QueryInterface } from 'sequelize'

/** Streams, commands, live feed, and the managed records around them. */
const statements = [
  `CREATE TABLE companies (id CHAR(36) PRIMARY KEY, name VARCHAR(120) NOT NULL, created_at DATETIME(3) NOT NULL)`,
  `CREATE TABLE branches (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, name VARCHAR(120) NOT NULL, scheme_id VARCHAR(12) NOT NULL, timezone VARCHAR(60) NOT NULL, settings JSON NOT NULL,
    KEY branches_company (company_id), CONSTRAINT branches_company_fk FOREIGN KEY (company_id) REFERENCES companies (id))`,
  `CREATE TABLE people (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, login VARCHAR(60) NOT NULL, name VARCHAR(120) NOT NULL, initials VARCHAR(4) NOT NULL,
    role VARCHAR(12) NOT NULL, licensed TINYINT(1) NOT NULL, active TINYINT(1) NOT NULL, password_hash VARCHAR(255) NOT NULL, session_epoch INT NOT NULL DEFAULT 0,
    UNIQUE KEY people_login (login), KEY people_branch (branch_id), CONSTRAINT people_company_fk FOREIGN KEY (company_id) REFERENCES companies (id), CONSTRAINT people_branch_fk FOREIGN KEY (branch_id) REFERENCES branches (id))`,
  `CREATE TABLE customers (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, name VARCHAR(120) NOT NULL, phone VARCHAR(40) NOT NULL, email VARCHAR(190) NOT NULL, KEY customers_company (company_id))`,
  `CREATE TABLE sites (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, customer_id CHAR(36) NOT NULL, name VARCHAR(120) NOT NULL, address VARCHAR(200) NOT NULL,
    year_built SMALLINT NULL, door_code_sealed VARCHAR(400) NULL, KEY sites_branch (branch_id), CONSTRAINT sites_customer_fk FOREIGN KEY (customer_id) REFERENCES customers (id))`,
  `CREATE TABLE jobs (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, customer_id CHAR(36) NOT NULL, number INT NOT NULL, title VARCHAR(120) NOT NULL,
    created_at DATETIME(3) NOT NULL, status VARCHAR(16) NOT NULL DEFAULT 'toSchedule', points INT NOT NULL DEFAULT 0, passed INT NOT NULL DEFAULT 0, failed INT NOT NULL DEFAULT 0, open_defects INT NOT NULL DEFAULT 0,
    UNIQUE KEY jobs_number (company_id, number), KEY jobs_branch_status (branch_id, status), KEY jobs_site (site_id), CONSTRAINT jobs_site_fk FOREIGN KEY (site_id) REFERENCES sites (id))`,
  `CREATE TABLE streams (id CHAR(36) PRIMARY KEY, kind VARCHAR(4) NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, seq INT NOT NULL DEFAULT 0,
    snapshot_version INT NULL, snapshot_seq INT NOT NULL DEFAULT 0, snapshot LONGTEXT NULL, KEY streams_company (company_id))`,
  `CREATE TABLE events (stream_id CHAR(36) NOT NULL, seq INT NOT NULL, id CHAR(36) NOT NULL, stream VARCHAR(4) NOT NULL, company_id CHAR(36) NOT NULL, command_id CHAR(36) NOT NULL, type VARCHAR(40) NOT NULL, version SMALLINT NOT NULL,
    payload LONGTEXT NOT NULL, actor TEXT NOT NULL, at VARCHAR(35) NOT NULL, received_at VARCHAR(30) NOT NULL, PRIMARY KEY (stream_id, seq), UNIQUE KEY events_id (id), KEY events_command (command_id))`,
  `CREATE TABLE commands (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, stream_id CHAR(36) NOT NULL, fingerprint CHAR(64) NOT NULL, type VARCHAR(40) NOT NULL, outcome TEXT NOT NULL, received_at DATETIME(3) NOT NULL,
    KEY commands_stream (stream_id))`,
  `CREATE TABLE feeds (company_id CHAR(36) PRIMARY KEY, seq BIGINT NOT NULL DEFAULT 0)`,
  `CREATE TABLE feed_entries (company_id CHAR(36) NOT NULL, seq BIGINT NOT NULL, branch_id CHAR(36) NULL, topic VARCHAR(16) NOT NULL, stream_id CHAR(36) NULL, from_seq INT NULL, to_seq INT NULL, at DATETIME(3) NOT NULL, PRIMARY KEY (company_id, seq))`,
  `CREATE TABLE visits (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, kind VARCHAR(10) NOT NULL, status VARCHAR(10) NOT NULL, callback_id CHAR(36) NULL,
    starts_at DATETIME(3) NOT NULL, ends_at DATETIME(3) NOT NULL, window_from DATETIME(3) NOT NULL, window_to DATETIME(3) NOT NULL, arrived_at DATETIME(3) NULL, finished_at DATETIME(3) NULL,
    KEY visits_branch_day (branch_id, starts_at), KEY visits_job (job_id), KEY visits_site (site_id, status))`,
  `CREATE TABLE visit_people (visit_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, position TINYINT NOT NULL, PRIMARY KEY (visit_id, person_id), KEY visit_people_person (person_id))`,
  `CREATE TABLE units (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, box_id CHAR(36) NOT NULL, gang TINYINT NOT NULL, model VARCHAR(160) NOT NULL, serial VARCHAR(60) NOT NULL,
    name VARCHAR(80) NOT NULL, installed_at DATETIME(3) NOT NULL, removed_at DATETIME(3) NULL, removed_to VARCHAR(10) NULL, UNIQUE KEY units_serial (company_id, serial), KEY units_job (job_id), KEY units_site (site_id))`,
  `CREATE TABLE callbacks (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, unit_id CHAR(36) NOT NULL, what VARCHAR(500) NOT NULL, status VARCHAR(10) NOT NULL,
    cause_kind VARCHAR(16) NULL, remedy VARCHAR(12) NULL, opened_at DATETIME(3) NOT NULL, closed_at DATETIME(3) NULL, KEY callbacks_branch (branch_id, status), KEY callbacks_job (job_id))`,
  `CREATE TABLE hanging_tags (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, breaker_id CHAR(36) NOT NULL, breaker_number VARCHAR(12) NOT NULL, person_id CHAR(36) NOT NULL, initials VARCHAR(4) NOT NULL,
    lock_name VARCHAR(60) NOT NULL, hung_at DATETIME(3) NOT NULL, KEY hanging_tags_site (site_id), KEY hanging_tags_branch (branch_id))`,
  `CREATE TABLE instruments (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, name VARCHAR(80) NOT NULL, serial VARCHAR(60) NOT NULL, kind VARCHAR(4) NOT NULL, calibration_due DATE NOT NULL, active TINYINT(1) NOT NULL, KEY instruments_branch (branch_id))`,
  `CREATE TABLE models (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, maker VARCHAR(60) NOT NULL, name VARCHAR(80) NOT NULL, active TINYINT(1) NOT NULL, data TEXT NOT NULL, KEY models_company (company_id))`,
  `CREATE TABLE photos (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, job_id CHAR(36) NOT NULL, mime VARCHAR(40) NOT NULL, bytes MEDIUMBLOB NOT NULL, uploaded_by CHAR(36) NOT NULL, uploaded_at DATETIME(3) NOT NULL, KEY photos_job (job_id))`,
  `CREATE TABLE secret_reads (id CHAR(36) PRIMARY KEY, company_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, what VARCHAR(20) NOT NULL, ref_id CHAR(36) NOT NULL, at DATETIME(3) NOT NULL, KEY secret_reads_company (company_id, at))`,
  `CREATE TABLE login_attempts (id BIGINT AUTO_INCREMENT PRIMARY KEY, login VARCHAR(60) NOT NULL, address VARCHAR(60) NOT NULL, at DATETIME(3) NOT NULL, KEY login_attempts_login (login, at), KEY login_attempts_address (address, at))`,
]

export async function up(query: QueryInterface): Promise<void> {
  for (const statement of statements)
    await query.sequelize.query(`${statement} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`)
}
