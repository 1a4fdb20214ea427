// npm run backup: everything the company has, as of one moment, while everybody works.
//   --to=FOLDER  where it is written (.circuitry/backups)     --keys=FOLDER  where its keys go, sealed (.circuitry/backup-keys)
//   --keep=N     keeps the newest N of that folder, and no older ones
// Where CIRCUITRY_DB_PORT names a database (a node of a cluster), of that one, with the keys of its servers' environment.
import { join, resolve } from 'node:path'
import { needPackages, run, say, stateDir, Stop } from './lib/host.mjs'

const options = process.argv.slice(2)
const option = (name, usual) => options.find((word) => word.startsWith(`--${name}=`))?.slice(name.length + 3) ?? usual
const unknown = options.filter((word) => !/^--(to|keys|keep|place)=/.test(word))
run(async () => {
  if (unknown.length) throw new Stop(`Unknown option: ${unknown.join(' ')}. Known: --to=FOLDER --keys=FOLDER --keep=N`)
  const keep = option('keep', null)
  if (keep !== null && !/^[1-9]\d{0,3}$/.test(keep)) throw new Stop('Say with --keep how many stay: 1 and more.')
  const chosen = process.env.CIRCUITRY_BACKUP_PASSPHRASE || null
  needPackages()
  const { databaseHere } = await import('./lib/mariadb.mjs')
  const { keepNewest, makeBackup } = await import('./lib/backup.mjs')
  const { plainPassphrase } = await import('./lib/passphrase.mjs')
  if (chosen !== null && plainPassphrase(chosen).length < 12)
    throw new Stop('A passphrase has twelve letters and digits and more: small or large, signs and blanks count for nothing.')
  const place = option('place', null)
  const database = await databaseHere(place)
  if (!database) throw new Stop('There is no database here yet, so there is nothing to back up.')
  try {
    const folder = resolve(option('to', join(stateDir, 'backups')))
    const { env, keys, kind } = database
    const made = await makeBackup({
      ...{ env, keys, kind, folder },
      keysFolder: resolve(option('keys', join(stateDir, 'backup-keys'))),
      passphrase: chosen,
    })
    say(`Backup: ${made.file}`)
    if (made.passphrase)
      say(
        `Keys:   ${made.keysFile}\n\n  They open with the passphrase  ${made.passphrase}\n\n  Write it down now: it is shown once and kept nowhere. Without it no door code and no setup code\n  of this backup and of those after it can ever be read. Keep the file of keys away from the backups.`,
      )
    else say(`Keys:   ${made.keysFile}, sealed before: its passphrase is still the one that was shown then.`)
    const removed = keep ? keepNewest(folder, Number(keep)) : []
    if (removed.length) say(`Removed ${removed.length === 1 ? 'one older backup' : `${removed.length} older backups`}.`)
  } finally {
    await database.stop()
  }
})
