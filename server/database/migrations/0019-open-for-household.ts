import type { QueryInterface } from 'sequelize'

/** Devices are opened for the household’s own app, and joined by a code that it shows. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    'ALTER TABLE link_asks ADD COLUMN anyway TINYINT(1) NOT NULL DEFAULT 0, ADD COLUMN sealed VARCHAR(1000) NULL, ADD COLUMN until DATETIME(3) NULL',
  )
}
