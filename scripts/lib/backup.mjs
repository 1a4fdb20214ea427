// A backup: what the database holds as one compressed file, a sheet about it, and its keys by themselves, sealed.
import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes, scryptSync } from 'node:crypto'
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { basename, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { createGunzip, createGzip } from 'node:zlib'
import mysql from 'mysql2/promise'
import { changesKept, placeIn, playChanges } from './changes.mjs'
import { clientOf } from './client.mjs'
import { listBeside } from './erasures.mjs'
import { root, Stop } from './host.mjs'
import { newPassphrase, plainPassphrase } from './passphrase.mjs'

const format = 'circuitry-backup'
const keysFormat = 'circuitry-keys'
const cost = { N: 2 ** 17, r: 8, p: 1, maxmem: 2 ** 28 }
const pattern = /^circuitry-\d{8}-\d{6}\.sql\.gz$/
const sheetOf = (file) => file.replace(/\.sql\.gz$/, '.json')

export const connectTo = (env) =>
  mysql.createConnection({
    host: env.CIRCUITRY_DB_HOST,
    port: Number(env.CIRCUITRY_DB_PORT),
    user: env.CIRCUITRY_DB_USER,
    password: env.CIRCUITRY_DB_PASSWORD,
    database: env.CIRCUITRY_DB_NAME,
  })
const asUser = (env) => ({ MYSQL_PWD: env.CIRCUITRY_DB_PASSWORD })
const client = (env) => [
  '--no-defaults',
  `--host=${env.CIRCUITRY_DB_HOST}`,
  `--port=${env.CIRCUITRY_DB_PORT}`,
  `--user=${env.CIRCUITRY_DB_USER}`,
  '--default-character-set=utf8mb4',
]
async function digestOf(file) {
  const hash = createHash('sha256')
  for await (const part of createReadStream(file)) hash.update(part)
  return hash.digest('hex')
}
const newestMigration = async (connection) => {
  const [[row]] = await connection.query('SELECT MAX(name) AS name FROM sequelize_meta')
  return row.name
}

/** Tells one set of keys from another without telling them. */
const markOf = ({ secretKey }) => createHmac('sha256', Buffer.from(secretKey, 'base64')).update(keysFormat).digest('hex').slice(0, 12)
export function sealKeys(keys, passphrase) {
  const [salt, iv] = [randomBytes(16), randomBytes(12)]
  const cipher = createCipheriv('aes-256-gcm', scryptSync(plainPassphrase(passphrase), salt, 32, cost), iv)
  const data = Buffer.concat([cipher.update(JSON.stringify(keys), 'utf8'), cipher.final(), cipher.getAuthTag()])
  return { format: keysFormat, version: 1, salt: salt.toString('base64'), iv: iv.toString('base64'), data: data.toString('base64') }
}
/** @throws Stop where the passphrase is another, or it is no file of keys */
export function openKeys(file, passphrase) {
  const sealed = readSheet(file, keysFormat)
  const data = Buffer.from(sealed.data, 'base64')
  const key = scryptSync(plainPassphrase(passphrase), Buffer.from(sealed.salt, 'base64'), 32, cost)
  const opened = createDecipheriv('aes-256-gcm', key, Buffer.from(sealed.iv, 'base64'))
  opened.setAuthTag(data.subarray(-16))
  try {
    return JSON.parse(Buffer.concat([opened.update(data.subarray(0, -16)), opened.final()]).toString('utf8'))
  } catch {
    throw new Stop('That is not the passphrase of these keys.')
  }
}
function readSheet(file, wanted) {
  let sheet = null
  try {
    sheet = JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    throw new Stop(`${file} is missing or cannot be read.`)
  }
  if (sheet?.format !== wanted) throw new Stop(`${file} is something else: ${wanted} was expected.`)
  if (sheet.version !== 1) throw new Stop(`${file} was written by a newer program. Use that one.`)
  return sheet
}

/**
 * Writes a backup of one moment while everybody works. A file under its name is whole: it has another one until then.
 * @param env how the database is reached
 * @param keys what seals it and its sessions
 * @param kind demo or empty, as its data directory says
 * @returns the file, the file of keys, and the passphrase where the keys were sealed just now
 */
export async function makeBackup({ env, keys, kind, folder, keysFolder, passphrase = null, at = new Date() }) {
  for (const one of [folder, keysFolder]) mkdirSync(one, { recursive: true, mode: 0o700 })
  const stamp = at.toISOString().replace(/[-:]/g, '').replace('T', '-').slice(0, 15)
  const file = join(folder, `circuitry-${stamp}.sql.gz`)
  if (existsSync(file)) throw new Stop(`${file} is there already.`)
  const part = `${file}.part`
  const connection = await connectTo(env)
  try {
    const changesId = await changesKept(connection)
    // Where its changes go on is read from the same moment as what it holds.
    const args = [
      ...[...client(env), '--single-transaction', '--quick', '--hex-blob', '--skip-lock-tables', '--tz-utc'],
      ...(changesId ? ['--master-data=2'] : []),
      env.CIRCUITRY_DB_NAME,
    ]
    const { child, ended } = clientOf('mariadb-dump', args, asUser(env))
    let [head, tail] = ['', '']
    child.stdout.on('data', (bytes) => {
      const text = bytes.toString('latin1')
      if (head.length < 4000) head += text
      tail = (tail + text).slice(-400)
    })
    await Promise.all([pipeline(child.stdout, createGzip(), createWriteStream(part, { mode: 0o600 })), ended])
    if (!tail.includes('-- Dump completed')) throw new Stop('The database ended before everything was written. There is no new backup.')
    const place = changesId && placeIn(head)
    if (changesId && !place) throw new Stop('The database did not say where its changes go on. There is no new backup.')
    const sheet = {
      ...{ format, version: 1, madeAt: at.toISOString(), kind, keys: markOf(keys) },
      ...{ migration: await newestMigration(connection), bytes: statSync(part).size, sha256: await digestOf(part) },
      ...(place ? { changes: { id: changesId, database: env.CIRCUITRY_DB_NAME, ...place } } : {}),
    }
    writeFileSync(sheetOf(file), `${JSON.stringify(sheet, null, 2)}\n`, { mode: 0o600 })
    renameSync(part, file)
    // Beside older backups as well: whoever is in one of those and was erased since is erased again where it is put back.
    await listBeside(connection, folder)
  } catch (error) {
    for (const left of [part, sheetOf(file)]) rmSync(left, { force: true })
    throw error
  } finally {
    await connection.end()
  }
  const keysFile = keysFileOf(keysFolder, keys)
  if (existsSync(keysFile)) return { file, keysFile, passphrase: null }
  const fresh = passphrase ?? newPassphrase((bytes) => randomBytes(bytes.length))
  writeFileSync(keysFile, `${JSON.stringify(sealKeys(keys, fresh), null, 2)}\n`, { mode: 0o600 })
  return { file, keysFile, passphrase: fresh }
}

/** Where these keys lie, or will lie, sealed. */
export const keysFileOf = (folder, keys) => join(folder, `circuitry-keys-${markOf(keys)}.json`)

/** The newest backup of a folder by its sheet, one that can be read; null: there is none. @returns { file, madeAt } */
export function newestBackup(folder) {
  let names = []
  try {
    names = readdirSync(folder).filter((one) => pattern.test(one))
  } catch {
    // No such folder yet, or none that can be read: whoever writes into it says why.
  }
  for (const name of names.sort().reverse())
    try {
      const file = join(folder, name)
      return { file, madeAt: new Date(readSheet(sheetOf(file), format).madeAt) }
    } catch {
      // One without its sheet is none.
    }
  return null
}

/** Removes all but the newest backups of a folder; nothing else in it is touched. @returns what was removed */
export function keepNewest(folder, count) {
  const old = readdirSync(folder)
    .filter((name) => pattern.test(name))
    .sort()
    .slice(0, -count)
  for (const name of old) for (const path of [join(folder, name), sheetOf(join(folder, name))]) rmSync(path, { force: true })
  return old
}

/**
 * Looks at a backup before anything is made from it.
 * @throws Stop where it is not whole, of a newer program, or sealed with other keys
 */
export async function readBackup(file, keys) {
  if (!pattern.test(basename(file)) || !existsSync(file)) throw new Stop(`${file} is no backup: its name is circuitry-…sql.gz.`)
  const sheet = readSheet(sheetOf(file), format)
  if ((await digestOf(file)) !== sheet.sha256) throw new Stop(`${file} is not as it was written: take another backup. Nothing was changed.`)
  if (sheet.keys !== markOf(keys)) throw new Stop('These are the keys of another database. Nothing was changed.')
  if (!isKnown(sheet.migration)) throw new Stop('This backup was made by a newer program. Put that one here first. Nothing was changed.')
  return sheet
}

/** Everybody’s page is fetched anew by this: no device’s place in the feed is near it. */
const feedJump = 1_000_000
const isKnown = (migration) => existsSync(join(root, 'server', 'database', 'migrations', `${migration}.ts`))
/** Up to when changes were played. @throws Stop where an upgrade to a newer program is among them */
async function playedUpTo(connection, { madeAt }, at) {
  if (!isKnown(await newestMigration(connection)))
    throw new Stop('Among the changes is an upgrade to a newer program. Put that one here first, or say with --until a moment before it.')
  if (at) return at.toISOString()
  // To the end, that is up to the last entry, unless the backup is newer still.
  const [[newest]] = await connection.query("SELECT DATE_FORMAT(MAX(received_at), '%Y-%m-%dT%H:%i:%sZ') AS at FROM events")
  return new Date(Math.max(Date.parse(madeAt), Date.parse(newest.at ?? 0))).toISOString()
}
/**
 * Fills an empty database from a backup. Everybody logs in again, and is told for two days that the record is older than the homes.
 * @param changes what is played after it: { files, at, root }, at the first second that is left out, or null
 * @returns how many records and entries there are, and up to when
 */
export async function fillFrom(file, sheet, env, { at = new Date(), changes = null } = {}) {
  const { child, ended } = clientOf('mariadb', [...client(env), '--binary-mode', env.CIRCUITRY_DB_NAME], asUser(env))
  await Promise.all([pipeline(createReadStream(file), createGunzip(), child.stdin), ended])
  if (changes) await playChanges({ ...changes, position: sheet.changes.position, database: sheet.changes.database })
  const connection = await connectTo(env)
  try {
    const upTo = changes ? await playedUpTo(connection, sheet, changes.at) : sheet.madeAt
    const [[gaps]] = await connection.query(
      'SELECT COUNT(*) AS count FROM (SELECT stream_id FROM events GROUP BY stream_id HAVING COUNT(*) <> MAX(seq) OR MIN(seq) <> 1) AS broken',
    )
    if (Number(gaps.count)) throw new Stop(`${gaps.count} records lack entries: this backup is not whole.`)
    await connection.query('DELETE FROM sessions')
    await connection.query('UPDATE feeds SET seq = seq + ?', [feedJump])
    // The migration that makes it lets it stand.
    await connection.query(
      'CREATE TABLE IF NOT EXISTS installation (name VARCHAR(40) NOT NULL PRIMARY KEY, value TEXT NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4',
    )
    await connection.query("REPLACE INTO installation (name, value) VALUES ('restored', ?)", [
      JSON.stringify({ at: at.toISOString(), from: upTo }),
    ])
    const [[found]] = await connection.query('SELECT COUNT(DISTINCT stream_id) AS records, COUNT(*) AS entries FROM events')
    return { records: Number(found.records), entries: Number(found.entries), upTo }
  } finally {
    await connection.end()
  }
}
