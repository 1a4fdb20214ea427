import type { QueryInterface } from 'sequelize'

/** Two companies may have the same login, and know nothing of it; a company that was taken elsewhere works here no more. */
export async function up(query: QueryInterface): Promise<void> {
  const statements = [
    'ALTER TABLE people ADD UNIQUE KEY people_company_login (company_id, login)',
    'ALTER TABLE people ADD KEY people_login_here (login)',
    'ALTER TABLE people DROP KEY people_login',
    'ALTER TABLE companies ADD COLUMN moved_to VARCHAR(300) NULL',
  ]
  for (const statement of statements) await query.sequelize.query(statement)
}
