import type { QueryInterface } from 'sequelize'

/** Which server holds a live connection of whom, and when that server last said so. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE connections (server_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, beat_at DATETIME(3) NOT NULL,
      PRIMARY KEY (server_id, person_id), KEY connections_person (person_id, beat_at), KEY connections_beat (beat_at)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
