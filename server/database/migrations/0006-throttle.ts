import type { QueryInterface } from 'sequelize'

/** Wrong passwords and PINs are counted by a library, in the table it wants. */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    'CREATE TABLE throttle (`key` VARCHAR(255) CHARACTER SET utf8 NOT NULL PRIMARY KEY, points INT NOT NULL DEFAULT 0, expire BIGINT UNSIGNED NULL) ENGINE=InnoDB',
  )
  await query.sequelize.query('DROP TABLE login_attempts')
  await query.sequelize.query('ALTER TABLE people DROP COLUMN pin_failures, DROP COLUMN pin_locked_until')
}
