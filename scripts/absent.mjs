// npm run absent -- --site="The Net Loft" --login=odo.reed --how="phoned, is at home" --confirmed-by=lena.moss
// For the one case the app cannot serve: the only lead is gone, and so nobody can declare anybody absent. It ends what
// that person left at a home, as the same procedure in the app does; a second person of the company is named.
import { createJiti } from 'jiti'
import { needPackages, run, say, Stop } from './lib/host.mjs'
import { databaseHere } from './lib/mariadb.mjs'

const option = (name) => process.argv.find((word) => word.startsWith(`--${name}=`))?.slice(name.length + 3) ?? ''
run(async () => {
  needPackages()
  const wanted = { site: option('site'), login: option('login'), how: option('how'), confirmedBy: option('confirmed-by') }
  if (Object.values(wanted).some((value) => !value))
    throw new Stop('Say --site="…" --login=… --how="how you know that they have left" --confirmed-by=…')
  // It is asked for while the server runs, more often than not: that goes on.
  const database = await databaseHere()
  if (!database) throw new Stop('There is no database here yet.')
  Object.assign(process.env, database.env)
  const jiti = createJiti(import.meta.url)
  const { endForAbsent } = await jiti.import('../server/services/absent.ts')
  const { closeDatabase } = await jiti.import('../server/database/index.ts')
  try {
    say(await endForAbsent(wanted))
  } finally {
    await closeDatabase()
    await database.stop()
  }
})
