// npm run db:rebuild: throws the projected rows away and makes them again from the streams.
import { createJiti } from 'jiti'
import { say } from './lib/host.mjs'
import { startMariadb } from './lib/mariadb.mjs'

const database = await startMariadb('live')
Object.assign(process.env, database.env)
const jiti = createJiti(import.meta.url)
const { rebuildProjections } = await jiti.import('../server/services/rebuild.ts')
const { closeDatabase } = await jiti.import('../server/database/index.ts')
const { sites, jobs } = await rebuildProjections()
say(`Rebuilt from ${sites} site streams and ${jobs} job streams.`)
await closeDatabase()
await database.stop()
