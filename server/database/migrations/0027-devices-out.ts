import type { QueryInterface } from 'sequelize'

const statements = [
  `CREATE TABLE devices_out (job_id CHAR(36) NOT NULL, serial VARCHAR(60) COLLATE utf8mb4_bin NOT NULL, company_id CHAR(36) NOT NULL, branch_id CHAR(36) NOT NULL, site_id CHAR(36) NOT NULL, callback_id CHAR(36) NULL,
    model VARCHAR(200) NOT NULL, goes VARCHAR(20) NOT NULL, stage VARCHAR(20) NOT NULL, due_on DATE NULL, reference VARCHAR(80) NOT NULL DEFAULT '', outcome VARCHAR(20) NULL, credit_cents INT NULL, out_at DATETIME(3) NOT NULL,
    PRIMARY KEY (job_id, serial), KEY devices_out_due (company_id, stage, due_on)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  // What came out before: it waits to be sent, two weeks from then.
  `INSERT IGNORE INTO devices_out (job_id, serial, company_id, branch_id, site_id, callback_id, model, goes, stage, due_on, outcome, out_at)
    SELECT units.job_id, units.serial, units.company_id, units.branch_id, units.site_id, MAX(callbacks.id), units.model, COALESCE(units.removed_to, 'return'), IF(units.removed_to = 'scrap', 'settled', 'waits'),
      IF(units.removed_to = 'scrap', NULL, DATE(units.removed_at) + INTERVAL 14 DAY), IF(units.removed_to = 'scrap', 'scrapped', NULL), units.removed_at
    FROM units LEFT JOIN callbacks ON callbacks.unit_id = units.id WHERE units.removed_at IS NOT NULL GROUP BY units.id`,
  `INSERT IGNORE INTO devices_out (job_id, serial, company_id, branch_id, site_id, model, goes, stage, due_on, out_at)
    SELECT p.job_id, p.serial, p.company_id, p.branch_id, jobs.site_id, COALESCE((SELECT CONCAT(JSON_VALUE(e.payload, '$.model.maker'), ' ', JSON_VALUE(e.payload, '$.model.name')) FROM events e WHERE e.stream_id = p.job_id AND e.type = 'unitPrepared' AND JSON_VALUE(e.payload, '$.serial') = p.serial ORDER BY e.seq DESC LIMIT 1), ''), 'return', 'waits', DATE(p.made_at) + INTERVAL 14 DAY, p.made_at
    FROM prepared_units p JOIN jobs ON jobs.id = p.job_id WHERE p.failed IS NOT NULL`,
]
/** Devices that came out of the wall, or failed in the shop, and what becomes of them. */
export async function up(query: QueryInterface): Promise<void> {
  for (const statement of statements) await query.sequelize.query(statement)
}
