// npm run keys:rotate: a new key for everything that is sealed here, and all of it sealed with that one. Not while the server runs.
//   --leaked  somebody else may have the key of before: its links open nothing any more, everybody logs in again
// Where CIRCUITRY_DB_PORT names a database (of a cluster): its servers have the new key already, and the one of before in
// CIRCUITRY_OTHER_SECRET_KEYS, and go on working meanwhile.
import { randomBytes } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { createJiti } from 'jiti'
import { isOurs, needPackages, run, say, stateDir, Stop } from './lib/host.mjs'

const options = process.argv.slice(2)
const leaked = options.includes('--leaked')
const place = options.find((word) => word.startsWith('--place='))?.slice(8) ?? null

/** With the keys of this environment. @returns lines that say what was done */
async function sealAnew(env) {
  Object.assign(process.env, env)
  const jiti = createJiti(import.meta.url)
  const { changeKey } = await jiti.import('../server/services/key-rotation.ts')
  const { closeDatabase, database, needMigrated } = await jiti.import('../server/database/index.ts')
  try {
    await needMigrated(database().sequelize)
    const changed = await changeKey(leaked)
    return [...changed].map(([table, rows]) => `  ${table}: ${rows}`).join('\n') || '  nothing: all of it was already'
  } finally {
    await closeDatabase()
  }
}
const afterLeak = leaked
  ? '\n\nWhoever had the key and a copy of the database could read what was sealed until now. Change door codes at the homes; the codes\nof devices count until a device is reset. Second steps of the login are set up anew by each person. Links to visits, homes and\ncalendars that were given out open nothing any more: send them again.'
  : ''

async function ofTheEnvironment() {
  if (!(process.env.CIRCUITRY_OTHER_SECRET_KEYS ?? '').trim())
    throw new Stop(
      'Say the key of before in CIRCUITRY_OTHER_SECRET_KEYS, and the new one in CIRCUITRY_SECRET_KEY. docs/operations.md has the order in which servers get them.',
    )
  const { databaseHere } = await import('./lib/mariadb.mjs')
  const { env } = await databaseHere()
  say(
    `Sealed with the key of today:\n${await sealAnew(env)}\n\nTake CIRCUITRY_OTHER_SECRET_KEYS from the servers now, one after the other, then run this once more with it: it seals what a\nserver wrote from its memory meanwhile.${afterLeak}`,
  )
}
async function ofThisHost() {
  const { changeCredentials, credentials, environment, startMariadb } = await import('./lib/mariadb.mjs')
  const name = place ?? 'live'
  const dir = join(stateDir, name)
  if (!existsSync(join(dir, 'credentials.json'))) throw new Stop('There is no database here yet, so there is no key to change.')
  const running = join(stateDir, 'running.json')
  if (name === 'live' && existsSync(running) && isOurs(JSON.parse(readFileSync(running, 'utf8')).pid, 'start.mjs'))
    throw new Stop('Circuitry is running. Stop it first (Ctrl-C where it was started): its server has the key of before in its hands.')
  const database = await startMariadb(name)
  try {
    const known = credentials(dir)
    // One that was cut off goes on with the key that it drew.
    if (!known.otherSecretKeys?.length)
      changeCredentials(dir, { secretKey: randomBytes(32).toString('base64'), otherSecretKeys: [known.secretKey] })
    const done = await sealAnew(environment(credentials(dir), database.port))
    changeCredentials(dir, { otherSecretKeys: [], ...(leaked ? { sessionPassword: randomBytes(36).toString('base64url') } : {}) })
    say(
      `The key is another one. Sealed with it, rows:\n${done}\n\nThe file of keys of the backups until now opens those alone: the next  npm run backup  seals the new key and shows its passphrase.${afterLeak}`,
    )
  } finally {
    await database.stop()
  }
}
run(async () => {
  const unknown = options.filter((word) => !/^--(leaked|place=.+)$/.test(word))
  if (unknown.length) throw new Stop(`Unknown option: ${unknown.join(' ')}. Known: --leaked`)
  needPackages()
  await (process.env.CIRCUITRY_DB_PORT && place === null ? ofTheEnvironment() : ofThisHost())
})
