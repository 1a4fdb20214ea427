import type { QueryInterface } from 'sequelize'

const statements = [
  'ALTER TABLE jobs ADD COLUMN handed_over_at DATETIME(3) NULL, ADD KEY jobs_handed_over (company_id, handed_over_at)',
  "UPDATE jobs JOIN (SELECT stream_id, MAX(at) AS at FROM events WHERE type = 'handoverCompleted' GROUP BY stream_id) AS done ON done.stream_id = jobs.id SET jobs.handed_over_at = CAST(REPLACE(REPLACE(done.at, 'T', ' '), 'Z', '') AS DATETIME(3))",
  'ALTER TABLE units ADD KEY units_lives (company_id, model, branch_id, installed_at, removed_at)',
  'ALTER TABLE callbacks ADD KEY callbacks_opened (company_id, opened_at), ADD KEY callbacks_cause (company_id, cause_kind, unit_id)',
]
/** When a job was handed over, and the ways by which models and callbacks are counted. */
export async function up(query: QueryInterface): Promise<void> {
  for (const statement of statements) await query.sequelize.query(statement)
}
