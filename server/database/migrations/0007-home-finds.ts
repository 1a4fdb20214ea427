import type { QueryInterface } from 'sequelize'

/** What kind of home each is and how many of its opened boxes held a neutral: what homes like it are judged by. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `CREATE TABLE home_finds (site_id CHAR(36) NOT NULL PRIMARY KEY, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, builder VARCHAR(80) NOT NULL, neutrals INT NOT NULL, opened INT NOT NULL,
      KEY home_finds_branch (branch_id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  )
}
