import { definePlugin } from '../http/plugin'
import { closeDatabase, database, migrate } from '../database'
import { seedDemo } from '../database/demo/seed'
import { isSetUp } from '../services/company'

/** Brings the schema up to date and, when asked, fills an empty database with the demo, before anything is served. */
export default definePlugin(async (nitro) => {
  nitro.hooks.hook('close', closeDatabase)
  const { sequelize } = database()
  await migrate(sequelize)
  if (process.env.CIRCUITRY_SEED === 'demo' && !(await isSetUp())) await seedDemo(new Date())
})
