// npm run restore -- --from=circuitry-….sql.gz --keys=circuitry-keys-….json: puts a backup back, into an empty place.
// The passphrase of the keys is asked for, or taken from CIRCUITRY_BACKUP_PASSPHRASE.
//   --changes=FOLDER  plays what changed after the backup, up to the end or  --until=2026-11-30T14:02
//   --erasures=FILE  the list of what was erased, where it does not lie beside the backup
//   --keys-to=FILE  only writes the keys, as lines for the environment of servers
// Where CIRCUITRY_DB_PORT names a database (of a cluster), into that one, if it is empty and its servers have these keys.
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { isOurs, needPackages, run, say, stateDir, Stop } from './lib/host.mjs'

const option = (name, usual = '') => process.argv.find((word) => word.startsWith(`--${name}=`))?.slice(name.length + 3) ?? usual
/** Loaded once the packages are there. */
const askPassphrase = async () => (await import('./lib/passphrase.mjs')).askPassphrase('CIRCUITRY_BACKUP_PASSPHRASE', 'the keys')
const done = ({ records, entries, upTo }, next) =>
  say(
    `Put back: ${records} records with ${entries} entries, all whole. Everybody logs in again.\n\n  What was recorded after ${upTo} is missing, tags and proofs too. Everybody is told so for two days: before\n  anything is closed or opened, somebody looks at the panel and asks who was in that home.\n\n  ${next}`,
  )
/** Whoever was erased after that backup is erased again by the server that starts first: the list beside the backups says who. */
async function takeList(file) {
  const { addList, erasuresBeside, erasuresHere } = await import('./lib/erasures.mjs')
  const from = option('erasures') ? resolve(option('erasures')) : erasuresBeside(dirname(file))
  if (option('erasures') && !existsSync(from)) throw new Stop(`${from} is not there.`)
  addList(from, erasuresHere())
}
/** Into the database that the environment names. */
async function restoreThere(from, keysFile) {
  const { connectTo, fillFrom, openKeys, readBackup } = await import('./lib/backup.mjs')
  const { databaseHere } = await import('./lib/mariadb.mjs')
  const { env, keys: theirs } = await databaseHere()
  const keys = openKeys(resolve(keysFile), await askPassphrase())
  if (keys.secretKey !== theirs.secretKey)
    throw new Stop(
      'The servers of this database have another key than the backup. Write the backup’s into their environment first: --keys-to=FILE.',
    )
  const connection = await connectTo(env)
  const [tables] = await connection.query('SHOW TABLES')
  await connection.end()
  if (tables.length)
    throw new Stop(`${env.CIRCUITRY_DB_NAME} holds ${tables.length} tables. Nothing is put over it: make an empty database.`)
  const file = resolve(from)
  const sheet = await readBackup(file, keys)
  say(`Putting back the backup of ${sheet.madeAt} …`)
  await takeList(file)
  done(await fillFrom(file, sheet, env), 'The servers go on from here, after one step with CIRCUITRY_MIGRATE=only.')
}
run(async () => {
  const [from, keysFile] = [option('from'), option('keys')]
  if (option('keys-to')) {
    needPackages()
    const { openKeys } = await import('./lib/backup.mjs')
    const { secretKey, sessionPassword, otherSecretKeys = [] } = openKeys(resolve(keysFile), await askPassphrase())
    const to = resolve(option('keys-to'))
    if (existsSync(to)) throw new Stop(`${to} is there already. Nothing is written over it.`)
    const others = otherSecretKeys.length ? `CIRCUITRY_OTHER_SECRET_KEYS=${otherSecretKeys.join()}\n` : ''
    const lines = `CIRCUITRY_SECRET_KEY=${secretKey}\nNUXT_SESSION_PASSWORD=${sessionPassword}\n${others}`
    writeFileSync(to, lines, { mode: 0o600, flag: 'wx' })
    return say(`Written, for you alone: ${to}`)
  }
  if (!from || !keysFile) throw new Stop('Say --from=circuitry-….sql.gz --keys=circuitry-keys-….json')
  const changes = option('changes')
  if (option('until') && !changes) throw new Stop('--until needs --changes=FOLDER: what changed after the backup.')
  if (process.env.CIRCUITRY_DB_PORT) {
    if (changes) throw new Stop('Changes are played into a database of this host only, not into one that the environment names.')
    needPackages()
    return restoreThere(from, keysFile)
  }
  const place = option('place', 'live')
  const target = join(stateDir, place)
  if (existsSync(target))
    throw new Stop(`${target} holds a database. Nothing is put over it: stop the server and move that folder away first.`)
  const running = join(stateDir, 'running.json')
  if (place === 'live' && existsSync(running) && isOurs(JSON.parse(readFileSync(running, 'utf8')).pid, 'start.mjs'))
    throw new Stop('Circuitry is running, or still stopping. Stop it first (Ctrl-C where it was started), then try again.')
  needPackages()
  const { startMariadb } = await import('./lib/mariadb.mjs')
  const { fillFrom, openKeys, readBackup } = await import('./lib/backup.mjs')
  const { changesAfter, momentOf } = await import('./lib/changes.mjs')
  const keys = openKeys(resolve(keysFile), await askPassphrase())
  const file = resolve(from)
  const sheet = await readBackup(file, keys)
  const after = changes ? { files: changesAfter(resolve(changes), sheet.changes), at: momentOf(option('until'), sheet.madeAt) } : null
  // Made beside it: what is cut off in the middle is nobody's database.
  const making = `${place}-restoring`
  const beside = join(stateDir, making)
  say(`Putting back the backup of ${sheet.madeAt} …`)
  let found = null
  try {
    // What is put back is no change of its own: its changes begin with its first start.
    const database = await startMariadb(making, { fresh: true, keys, changes: false })
    try {
      found = await fillFrom(file, sheet, database.env, { changes: after && { ...after, root: database.root } })
    } finally {
      await database.stop()
    }
    writeFileSync(join(beside, 'kind'), sheet.kind)
    if (place === 'live') await takeList(file)
    renameSync(beside, target)
  } catch (error) {
    rmSync(beside, { recursive: true, force: true })
    throw error
  }
  done(found, 'npm start goes on from here.')
})
