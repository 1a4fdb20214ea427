import { definePlugin } from '../http/plugin'
import { overTls } from '../http/public-origin'
import { closeDatabase, database, migrate, needMigrated, unitPlacesName } from '../database'
import { seedDemo } from '../database/demo/seed'
import { noteSessionPassword, readInstallation } from '../services/installation'
import { isSetUp } from '../services/setup'
import { eraseAgain } from '../services/erasures'
import { erasedBefore, listErasures } from '../services/erasure-list'
import { rebuildProjections } from '../services/rebuild'
import { reconcileSites } from '../services/reconcile'
import { deliverSoon } from '../services/messages'

/** What could not be sent is tried again so often, ms. */
const sendAgainMs = 15_000
/** What other servers erased comes into this one’s list so often, ms. */
const listEveryMs = 600_000

/** Of several servers none changes the tables: that is a step of its own, before them. Alone, a server does it as it starts. */
function migrationStep(given = ''): '' | 'only' | 'no' {
  if (given === '' || given === 'only' || given === 'no') return given
  throw new Error(`CIRCUITRY_MIGRATE is “${given}”. It is “only” (change the tables, end), “no” (serve), or nothing (both).`)
}

/** Brings the schema up to date and, when asked, fills an empty database with the demo, before anything is served. */
export default definePlugin(async (nitro) => {
  nitro.hooks.hook('close', closeDatabase)
  // The session’s cookie goes over TLS alone where people come over it. An address that is none stops the start.
  if (overTls()) process.env.NUXT_SESSION_COOKIE_SECURE = 'true'
  const { sequelize } = database()
  const step = migrationStep(process.env.CIRCUITRY_MIGRATE)
  const migrated = step === 'no' ? [] : await migrate(sequelize)
  if (step === 'no') await needMigrated(sequelize)
  await readInstallation()
  if (step !== 'only') await noteSessionPassword()
  // Rows from before a column that is made from the streams are made again.
  if (migrated.includes(unitPlacesName)) await rebuildProjections()
  // Put back from a backup of before, who was erased since is erased again, before anybody sees them.
  const back = await eraseAgain(await erasedBefore())
  if (back) console.log(`Erased again, as the list of what was erased says: ${back}.`)
  await listErasures()
  // What a stop cut off in the middle: testers that failed and licences that ended, in every home where somebody works.
  for (const { id } of await database().models.companies.findAll({ attributes: ['id'], raw: true })) await reconcileSites(id)
  const seed = process.env.CIRCUITRY_SEED
  if ((seed === 'demo' || seed === 'years') && !(await isSetUp())) await seedDemo(new Date(), { years: seed === 'years' })
  if (step === 'only') {
    await closeDatabase()
    process.exit(0)
  }
  const again = setInterval(deliverSoon, sendAgainMs)
  again.unref()
  const listing = setInterval(() => void listErasures(), listEveryMs)
  listing.unref()
  nitro.hooks.hook('close', () => {
    clearInterval(again)
    clearInterval(listing)
  })
})
