import type { QueryInterface } from 'sequelize'

/** What was said of a callback on the telephone, its cause, who pays, and when the customer is called back. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    "ALTER TABLE callbacks ADD COLUMN cause_id VARCHAR(60) NULL, ADD COLUMN cause VARCHAR(500) NOT NULL DEFAULT '', ADD COLUMN payer VARCHAR(10) NULL, ADD COLUMN call_back_on DATE NULL, ADD COLUMN danger BOOLEAN NOT NULL DEFAULT FALSE, ADD COLUMN said MEDIUMTEXT NULL",
  )
}
