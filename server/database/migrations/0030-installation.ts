import type { QueryInterface } from 'sequelize'

/**
 * What a database knows of itself: whether the key of its server is its own, and from when it was put back. A backup of before has it
 * already: it was put back by a program that says so.
 */
export async function up(query: QueryInterface): Promise<void> {
  await query.sequelize.query(
    'CREATE TABLE IF NOT EXISTS installation (name VARCHAR(40) NOT NULL PRIMARY KEY, value TEXT NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4',
  )
}
