import type { QueryInterface } from 'sequelize'
import { QueryTypes } from 'sequelize'

/** By when the battery of a device is changed: until its record is written to again, three years after it was recorded. */
export async function up(query: QueryInterface): Promise<void> {
  const { sequelize } = query
  await sequelize.query('ALTER TABLE units ADD COLUMN battery_due DATE NULL, ADD KEY units_battery (company_id, battery_due)')
  const rows = await sequelize.query<{ company: string; maker: string; name: string; data: string }>(
    'SELECT company_id AS company, maker, name, data FROM models',
    { type: QueryTypes.SELECT },
  )
  for (const { company, maker, name, data } of rows) {
    const { kind, terminals } = JSON.parse(data) as { kind: string; terminals: string[] }
    if (kind !== 'companion' || terminals.some((terminal) => terminal !== 'ground')) continue
    await sequelize.query(
      'UPDATE units SET battery_due = DATE_ADD(DATE(installed_at), INTERVAL 3 YEAR) WHERE company_id = ? AND model = ? AND removed_at IS NULL',
      { replacements: [company, `${maker} ${name}`] },
    )
  }
}
