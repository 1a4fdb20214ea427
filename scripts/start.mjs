// npm start: installs what is missing, database, migrations, demo data, build, serves on 127.0.0.1.
//   --fresh  throw the stored data away first     --empty  start without demo data     --port=N  another port
//   --years  the demo with three years of homes before it; takes some minutes the first time
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { erasuresHere } from './lib/erasures.mjs'
import { endProcess, freePort, isOurs, needBuild, needPackages, say, stateDir, Stop } from './lib/host.mjs'
import { credentials, keysIn, startMariadb } from './lib/mariadb.mjs'
import { startStandIns } from './lib/link.mjs'
import { startServer } from './lib/server.mjs'

const options = process.argv.slice(2)
const has = (name) => options.includes(`--${name}`)
const unknown = options.filter((option) => !/^--(fresh|empty|years|port=\d+)$/.test(option))
const wantedPort = Number(options.find((option) => option.startsWith('--port='))?.slice(7) ?? 4620)
const running = join(stateDir, 'running.json')

async function main() {
  if (unknown.length) throw new Stop(`Unknown option: ${unknown.join(' ')}. Known: --fresh --empty --years --port=N`)
  mkdirSync(stateDir, { recursive: true })
  if (existsSync(running)) {
    const known = JSON.parse(readFileSync(running, 'utf8'))
    if (isOurs(known.pid, 'start.mjs')) {
      say(
        known.url
          ? `Circuitry is already running at ${known.url}. Stop it there with Ctrl-C.`
          : 'Circuitry is already starting in another window.',
      )
      return
    }
    // A start that was killed leaves its server behind.
    if (isOurs(known.serverPid, join('server', 'index.mjs'))) await endProcess(known.serverPid)
    if (isOurs(known.linkPid, join('link', 'main.mjs'))) await endProcess(known.linkPid)
  }
  writeFileSync(running, JSON.stringify({ pid: process.pid }))
  let database = null
  let server = null
  let link = null
  let endBackups = null
  let stopping = null
  const stop = () =>
    (stopping ??= (async () => {
      await endBackups?.()
      await link?.stop()
      await server?.stop()
      await database?.stop()
      rmSync(running, { force: true })
    })())
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => {
      say('\nStopping …')
      void stop().then(() => process.exit(0))
    })
  try {
    needPackages()
    const backups = process.env.CIRCUITRY_BACKUP ? await import('./lib/daily-backup.mjs') : null
    const daily = backups?.dailyBackupOf(process.env)
    say('Starting the database …')
    // What the data holds is decided once, by the first start that got as far as serving; one that did not starts over.
    const kindFile = join(stateDir, 'live', 'kind')
    const known = !has('fresh') && existsSync(kindFile) ? readFileSync(kindFile, 'utf8') : null
    const kind = known ?? (has('empty') ? 'empty' : 'demo')
    database = await startMariadb('live', { fresh: known === null })
    await needBuild()
    const seeds = known === null && kind === 'demo'
    const linkFolder = join(stateDir, 'live-link')
    if (known === null) rmSync(linkFolder, { recursive: true, force: true })
    // The demo brings a link with stand-ins along: paired like any other, by a code that holds once.
    const code = seeds ? randomBytes(8).toString('hex') : ''
    // Whoever comes first sets the company up, and is its lead: they have to know what is said here.
    const setUpCode = randomBytes(6).toString('hex')
    const port = await freePort(wantedPort)
    if (process.env.CIRCUITRY_ORIGIN && port !== wantedPort)
      throw new Stop(
        `Something else has port ${wantedPort}, where the proxy in front looks for this. End it, or say another with --port, and to the proxy.`,
      )
    server = await startServer({
      port,
      env: {
        ...database.env,
        CIRCUITRY_REQUEST_LOG: process.env.CIRCUITRY_REQUEST_LOG ?? join(stateDir, 'live', 'requests.log'),
        CIRCUITRY_ERASURES: erasuresHere(),
        CIRCUITRY_SETUP_CODE: setUpCode,
        CIRCUITRY_SEED: seeds ? (has('years') ? 'years' : 'demo') : '',
        CIRCUITRY_LINK_CODE: code,
      },
    })
    if (seeds || existsSync(join(linkFolder, 'office.json')))
      link = await startStandIns({ office: server.url, folder: linkFolder, code: code || null })
    writeFileSync(kindFile, kind)
    server.child.once('exit', () => {
      if (stopping) return
      say('The server ended.')
      void stop().then(() => process.exit(1))
    })
    if (daily) {
      const keys = keysIn(credentials(join(stateDir, 'live')))
      endBackups = backups.backUpDaily({ settings: daily, env: database.env, keys, kind, say })
    }
    writeFileSync(running, JSON.stringify({ pid: process.pid, url: server.url, serverPid: server.pid, linkPid: link?.pid ?? null }))
    const { needed } = await (await fetch(`${server.url}/api/setup`)).json()
    say(`\n  Circuitry runs at ${server.url}\n`)
    if (needed) say(`  There is no company yet: set one up at ${process.env.CIRCUITRY_ORIGIN ?? server.url}/setup#${setUpCode}\n`)
    else if (kind === 'demo')
      say(
        '  Demo logins, password "tide-and-lantern" for all:\n    lena.moss   dispatcher, Port Sallow      odo.reed    lead, Port Sallow\n    bram.ash    technician, Port Sallow      kit.ivers   technician, Port Sallow\n    sefa.vale   technician, Marram Quay      pip.tarn    apprentice, Port Sallow\n',
      )
    say('  Ctrl-C stops the server and its database.\n')
  } catch (error) {
    await stop()
    throw error
  }
}

main().catch((error) => {
  process.stderr.write(`\n${error instanceof Stop ? error.message : error.stack}\n`)
  process.exit(1)
})
