import type { QueryInterface } from 'sequelize'

/** A device that came out and is back in stock may go into another wall: a serial is in one wall at a time, and not once for ever. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    "ALTER TABLE units DROP KEY units_serial, ADD COLUMN in_wall CHAR(1) AS (IF(removed_at IS NULL, 'y', NULL)) PERSISTENT, ADD UNIQUE KEY units_serial (company_id, serial, in_wall)",
  )
}
