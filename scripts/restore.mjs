// npm run restore -- --from=circuitry-….sql.gz --keys=circuitry-keys-….json: puts a backup back, into an empty place.
// The passphrase of the keys is asked for, or taken from CIRCUITRY_BACKUP_PASSPHRASE.
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { createInterface } from 'node:readline/promises'
import { isOurs, needPackages, run, say, stateDir, Stop } from './lib/host.mjs'

const option = (name, usual = '') => process.argv.find((word) => word.startsWith(`--${name}=`))?.slice(name.length + 3) ?? usual
async function askPassphrase() {
  if (process.env.CIRCUITRY_BACKUP_PASSPHRASE) return process.env.CIRCUITRY_BACKUP_PASSPHRASE
  if (!process.stdin.isTTY) throw new Stop('Say the passphrase of the keys in CIRCUITRY_BACKUP_PASSPHRASE.')
  const asked = createInterface({ input: process.stdin, output: process.stdout })
  const answer = await asked.question('Passphrase of the keys: ')
  asked.close()
  return answer
}
run(async () => {
  const [from, keysFile] = [option('from'), option('keys')]
  if (!from || !keysFile) throw new Stop('Say --from=circuitry-….sql.gz --keys=circuitry-keys-….json')
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
  const keys = openKeys(resolve(keysFile), await askPassphrase())
  const file = resolve(from)
  const sheet = await readBackup(file, keys)
  // Made beside it: what is cut off in the middle is nobody's database.
  const making = `${place}-restoring`
  const beside = join(stateDir, making)
  say(`Putting back the backup of ${sheet.madeAt} …`)
  let found = null
  try {
    const database = await startMariadb(making, { fresh: true, keys })
    try {
      found = await fillFrom(file, sheet, database.env)
    } finally {
      await database.stop()
    }
    writeFileSync(join(beside, 'kind'), sheet.kind)
    renameSync(beside, target)
  } catch (error) {
    rmSync(beside, { recursive: true, force: true })
    throw error
  }
  say(
    `Put back: ${found.records} records with ${found.entries} entries, all whole. Everybody logs in again.\n\n  What was recorded after ${sheet.madeAt} is missing, tags and proofs too. Everybody is told so for two days: before\n  anything is closed or opened, somebody looks at the panel and asks who was in that home.\n\n  npm start goes on from here.`,
  )
})
