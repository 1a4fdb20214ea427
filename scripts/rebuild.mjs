// npm run db:rebuild: throws the projected rows away and makes them again from the streams. Not while the server runs.
import { createJiti } from 'jiti'
import { needPackages, run, say } from './lib/host.mjs'
import { startMariadb } from './lib/mariadb.mjs'

run(async () => {
  needPackages()
  const database = await startMariadb('live')
  try {
    Object.assign(process.env, database.env)
    const jiti = createJiti(import.meta.url)
    const { rebuildProjections } = await jiti.import('../server/services/rebuild.ts')
    const { closeDatabase } = await jiti.import('../server/database/index.ts')
    const { sites, jobs } = await rebuildProjections()
    say(`Rebuilt from ${sites} site streams and ${jobs} job streams.`)
    await closeDatabase()
  } finally {
    await database.stop()
  }
})
