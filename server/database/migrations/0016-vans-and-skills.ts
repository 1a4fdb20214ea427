import type { QueryInterface } from 'sequelize'

/** The van somebody drives, and what they have learnt. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    `ALTER TABLE people ADD COLUMN van_id CHAR(36) NULL, ADD COLUMN skills JSON NOT NULL DEFAULT '[]',
      ADD CONSTRAINT people_van_fk FOREIGN KEY (van_id) REFERENCES stock_places (id)`,
  )
}
