// A private MariaDB server on loopback, in a data directory of the project. Never the system's.
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, openSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { changesOf, keptChanges } from './changes.mjs'
import { endProcess, freePort, isOurs, needProgram, say, sleep, spawn, spawnSync, stateDir, Stop } from './host.mjs'

const read = (path) => JSON.parse(readFileSync(path, 'utf8'))

/**
 * Generated once per data directory, in a file only the owner may read.
 * @param keys of a backup that is put back here
 */
export function credentials(dir, keys = {}) {
  const path = join(dir, 'credentials.json')
  if (existsSync(path)) return read(path)
  const made = {
    rootPassword: randomBytes(24).toString('base64url'),
    dbUser: 'circuitry',
    dbName: 'circuitry',
    dbPassword: randomBytes(24).toString('base64url'),
    sessionPassword: randomBytes(36).toString('base64url'),
    secretKey: randomBytes(32).toString('base64'),
    ...keys,
  }
  writeFileSync(path, JSON.stringify(made, null, 2), { mode: 0o600 })
  return made
}

/** Changes what is kept of a data directory: the file is the old one or the new one, never a part. */
export function changeCredentials(dir, change) {
  const path = join(dir, 'credentials.json')
  const made = { ...read(path), ...change }
  writeFileSync(`${path}.new`, JSON.stringify(made, null, 2), { mode: 0o600 })
  renameSync(`${path}.new`, path)
}
/** The keys of a data directory, as a backup keeps them. */
export const keysIn = ({ secretKey, sessionPassword, otherSecretKeys = [] }) => ({
  ...{ secretKey, sessionPassword },
  ...(otherSecretKeys.length ? { otherSecretKeys } : {}),
})

/** Whoever uses a data directory: another program that started its server would end the one that is there. */
const ownerFile = (dir) => join(dir, 'owner')
function ownerOf(dir) {
  const owner = existsSync(ownerFile(dir)) ? Number(readFileSync(ownerFile(dir), 'utf8')) : 0
  return owner !== process.pid && isOurs(owner, 'node') ? owner : null
}
function takeDirectory(dir) {
  const owner = ownerOf(dir)
  if (owner)
    throw new Stop(`Process ${owner} is using ${dir}. Nothing was changed. Stop it first (Ctrl-C where it was started), then try again.`)
}
/** The database of a data directory that somebody else has open; null: nobody has. It is left running. */
export function runningMariadb(name) {
  const dir = join(stateDir, name)
  if (!ownerOf(dir)) return null
  return { env: environment(credentials(dir), readFileSync(join(dir, 'port'), 'utf8')), stop: async () => {} }
}
/**
 * The database that a command of the host is about: the one that the environment names (of a cluster, say), with the keys of its
 * servers; else the one that is kept here, started where it does not run. null: there is none.
 * @param place below the state folder, where one is meant whatever the environment names
 */
export async function databaseHere(place = null) {
  const { CIRCUITRY_DB_PORT, CIRCUITRY_SECRET_KEY: secretKey, NUXT_SESSION_PASSWORD: sessionPassword } = process.env
  const otherSecretKeys = (process.env.CIRCUITRY_OTHER_SECRET_KEYS ?? '').split(',').filter(Boolean)
  if (CIRCUITRY_DB_PORT && place === null) {
    if (!secretKey || !sessionPassword)
      throw new Stop(
        'Of a database by its address the keys are needed, too: CIRCUITRY_SECRET_KEY and NUXT_SESSION_PASSWORD, as its servers have them.',
      )
    const env = { CIRCUITRY_DB_HOST: '127.0.0.1', ...process.env }
    return { env, keys: keysIn({ secretKey, sessionPassword, otherSecretKeys }), kind: 'empty', stop: async () => {} }
  }
  const name = place ?? 'live'
  const dir = join(stateDir, name)
  if (!existsSync(join(dir, 'credentials.json'))) return null
  const known = credentials(dir)
  const kind = existsSync(join(dir, 'kind')) ? readFileSync(join(dir, 'kind'), 'utf8') : 'empty'
  const { env, stop } = runningMariadb(name) ?? (await startMariadb(name))
  return { env, keys: keysIn(known), kind, stop }
}
/** What a server needs to know of a database that listens at a port. */
export const environment = (known, port) => ({
  CIRCUITRY_DB_HOST: '127.0.0.1',
  CIRCUITRY_DB_PORT: String(port).trim(),
  CIRCUITRY_DB_USER: known.dbUser,
  CIRCUITRY_DB_PASSWORD: known.dbPassword,
  CIRCUITRY_DB_NAME: known.dbName,
  CIRCUITRY_SECRET_KEY: known.secretKey,
  CIRCUITRY_OTHER_SECRET_KEYS: (known.otherSecretKeys ?? []).join(),
  NUXT_SESSION_PASSWORD: known.sessionPassword,
})

/** Statements: a new server lets anybody on this machine in as root, and has an anonymous user that would shadow ours. */
export const firstAccounts = ({ rootPassword, dbName, dbUser, dbPassword }) => [
  "DELETE FROM mysql.global_priv WHERE User = '' OR (User = 'root' AND Host <> 'localhost')",
  'FLUSH PRIVILEGES',
  `CREATE DATABASE ${dbName} CHARACTER SET utf8mb4`,
  `CREATE USER '${dbUser}'@'127.0.0.1' IDENTIFIED BY '${dbPassword}'`,
  `GRANT ALL ON \`${dbName}%\`.* TO '${dbUser}'@'127.0.0.1'`,
  `ALTER USER 'root'@'localhost' IDENTIFIED BY '${rootPassword}'`,
]

/** As root through the socket. The password goes by the environment, so that no list of processes shows it. */
export function asRoot({ socket, password }, text) {
  const result = spawnSync(needProgram('mariadb', ['mariadb-client']), ['--no-defaults', `--socket=${socket}`, '-uroot', '-e', text], {
    encoding: 'utf8',
    env: { ...process.env, MYSQL_PWD: password },
  })
  if (result.status !== 0) throw new Stop(`The database did not take its first settings: ${result.stderr}`)
}

/**
 * Starts the server of a data directory, making it first when there is none.
 * @param name which data directory below the state folder
 * @param keys of a backup that is put back, for a new data directory
 * @param fast give up durability on power loss, for tests
 * @param changes whether it keeps what changes, for putting it back to any second
 */
export async function startMariadb(name, { fresh = false, fast = false, keys = {}, changes = !fast } = {}) {
  const mariadbd = needProgram('mariadbd', ['mariadb-server'])
  const dir = join(stateDir, name)
  const data = join(dir, 'data')
  const pidFile = join(dir, 'mariadbd.pid')
  takeDirectory(dir)
  if (existsSync(pidFile)) {
    const left = Number(readFileSync(pidFile, 'utf8'))
    if (isOurs(left, data)) {
      say('Ending a database server that an earlier run left behind …')
      await endProcess(left)
    }
  }
  if (fresh) rmSync(dir, { recursive: true, force: true })
  mkdirSync(dir, { recursive: true, mode: 0o700 })
  writeFileSync(ownerFile(dir), String(process.pid))
  const known = credentials(dir, keys)
  // Socket paths have a short limit, so it does not live in the project.
  const socket = join('/tmp', `circuitry-${process.getuid?.() ?? 0}-${randomBytes(6).toString('hex')}.sock`)
  const user = process.getuid?.() === 0 ? ['--user=root'] : []
  const newData = !existsSync(join(data, 'mysql'))
  if (newData) {
    rmSync(data, { recursive: true, force: true })
    const made = spawnSync(
      needProgram('mariadb-install-db', ['mariadb-server']),
      ['--no-defaults', `--datadir=${data}`, '--auth-root-authentication-method=normal', '--skip-test-db', ...user],
      { encoding: 'utf8' },
    )
    if (made.status !== 0) throw new Stop(`Could not make the database directory.\n${made.stdout}\n${made.stderr}`)
  }
  const port = await freePort(existsSync(join(dir, 'port')) ? Number(readFileSync(join(dir, 'port'), 'utf8')) : 0)
  writeFileSync(join(dir, 'port'), String(port))
  const log = openSync(join(dir, 'mariadbd.log'), 'a')
  const server = spawn(
    mariadbd,
    [
      '--no-defaults',
      `--datadir=${data}`,
      `--socket=${socket}`,
      `--port=${port}`,
      '--bind-address=127.0.0.1',
      `--pid-file=${pidFile}`,
      '--skip-name-resolve',
      '--character-set-server=utf8mb4',
      '--max-allowed-packet=32M',
      '--innodb-buffer-pool-size=256M',
      `--innodb-flush-log-at-trx-commit=${fast ? 2 : 1}`,
      ...(changes ? keptChanges(dir, changesOf(process.env, dir)) : []),
      ...user,
    ],
    { stdio: ['ignore', log, log], detached: true },
  )
  let failed = null
  server.once('exit', (code) => (failed = code ?? 'signal'))
  const ping = () =>
    spawnSync(needProgram('mariadb-admin', ['mariadb-client']), ['--no-defaults', `--socket=${socket}`, '-uroot', 'ping'], {
      encoding: 'utf8',
      env: { ...process.env, MYSQL_PWD: newData ? '' : known.rootPassword },
    }).status === 0
  for (let waited = 0; !existsSync(socket) || !ping(); waited += 200) {
    if (failed !== null || waited > 60_000) throw new Stop(`The database did not start; see ${join(dir, 'mariadbd.log')}.`)
    await sleep(200)
  }
  if (newData) {
    asRoot({ socket, password: '' }, `${firstAccounts(known).join('; ')};`)
  }
  return {
    port,
    dir,
    pid: server.pid,
    env: environment(known, port),
    root: { socket, password: known.rootPassword },
    stop: async () => {
      await endProcess(server.pid)
      rmSync(socket, { force: true })
      rmSync(ownerFile(dir), { force: true })
    },
  }
}
