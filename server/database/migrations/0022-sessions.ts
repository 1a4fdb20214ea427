import type { QueryInterface } from 'sequelize'

/** Who is logged in on which device: what is ended here is ended, whatever a cookie says. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE sessions (id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, person_id CHAR(36) NOT NULL, device VARCHAR(300) NOT NULL, made_at DATETIME(3) NOT NULL, seen_at DATETIME(3) NOT NULL,
      KEY sessions_person (person_id, seen_at)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
