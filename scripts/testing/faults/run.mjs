// npm run test:faults: things that break while a crew works. Servers and databases are killed for real; nothing that was
// answered may be lost or stored twice. Ends with a table: what was tried, what survived, what was lost (must be 0).
//   --cluster  the same for three nodes, three servers and a proxy
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { connectTo } from '../../lib/backup.mjs'
import { freePort, needBuild, needPackages, needProgram, root, say, sleep, spawnSync } from '../../lib/host.mjs'
import { startMariadb } from '../../lib/mariadb.mjs'
import { startServer } from '../../lib/server.mjs'
import { changesInSmall, putBackToTheSecond } from './changes.mjs'
import { envelopeOf, get, give, heardOtherwise, jobsOf, Listener, logIn, randomEnvelope } from './crew.mjs'
import { murder } from './murder.mjs'
import { quickFaults } from './quick.mjs'
import { takenElsewhere } from './taken-elsewhere.mjs'
import { seqsOf, verify } from './verify.mjs'

if (process.argv.includes('--cluster')) {
  const { clusterFaults } = await import('./cluster.mjs')
  process.exit((await clusterFaults()) ? 0 : 1)
}

const homes = ['Heron House', 'Lock Cottage', 'The Boathouse', 'Tide House']
const table = []

needPackages()
await needBuild()
let database = await startMariadb('faults', { fresh: true })
const errorLog = join(database.dir, 'server-errors.log')
const servers = []
const ports = [await freePort(), await freePort()]
const startAgain = async (index) => (servers[index] = await startServer({ port: ports[index], env: database.env, quiet: true, errorLog }))
const end = async (code) => {
  for (const server of servers) await server?.stop().catch(() => undefined)
  await database.stop().catch(() => undefined)
  process.exit(code)
}
process.on('uncaughtException', (error) => {
  console.error(error)
  void end(1)
})

const connect = () => connectTo(database.env)
async function row(what, result) {
  const lost = result.lost ?? 0
  table.push({ what, ...result, lost })
  say(
    `${lost === 0 && result.wrong.length === 0 ? 'ok  ' : 'FAIL'} ${what}: tried ${result.tried}, survived ${result.survived}, lost ${lost}${result.note ? ` (${result.note})` : ''}`,
  )
  for (const sentence of result.wrong.slice(0, 10)) say(`     ${sentence}`)
}
/** Everybody sends at once, `burst` at a time, while something happens; then the tables are looked at. */
async function underLoad(count, burst, happening, urls = servers.map((server) => server.url)) {
  const people = await logIn(urls[0])
  const jobs = await jobsOf(urls[0], people[3], homes)
  const todo = Array.from({ length: count }, (_, index) => randomEnvelope(jobs[index % jobs.length]))
  const answered = []
  let repeated = 0
  const worker = async () => {
    for (let envelope = todo.pop(); envelope; envelope = todo.pop()) {
      const { outcome, tries } = await give(urls, people[3], envelope)
      if (tries > 1) repeated++
      answered.push({ envelope, outcome })
    }
  }
  const progress = (share) =>
    new Promise((resolve) => {
      const look = setInterval(() => {
        if (answered.length >= count * share) {
          clearInterval(look)
          resolve()
        }
      }, 5)
    })
  await Promise.all([...Array.from({ length: burst }, worker), happening(progress)])
  const connection = await connect()
  const result = await verify(connection, answered)
  result.wrong.push(...(await heardOtherwise(urls, people[3], answered.slice(-50))))
  await connection.end()
  return {
    tried: count,
    ...result,
    note: `${repeated} sent more than once, ${answered.filter(({ outcome }) => outcome.status === 'refused').length} refused`,
  }
}

servers[0] = await startServer({ port: ports[0], env: { ...database.env, CIRCUITRY_SEED: 'demo' }, quiet: true, errorLog })
await startAgain(1)

await row(
  'server killed twice (kill -9) during 500 commands',
  await underLoad(
    500,
    60,
    async (progress) => {
      for (const share of [0.2, 0.6]) {
        await progress(share)
        await murder(servers[0].pid)
        await startAgain(0)
      }
    },
    [`http://127.0.0.1:${ports[0]}`],
  ),
)
await row(
  'database killed (kill -9) during 500 commands',
  await underLoad(500, 60, async (progress) => {
    await progress(0.4)
    await murder(database.pid)
    database = await startMariadb('faults')
  }),
)
await row(
  'database restarted in order under load',
  await underLoad(500, 60, async (progress) => {
    await progress(0.4)
    await database.stop()
    await sleep(2000)
    database = await startMariadb('faults')
  }),
)

async function fiftyClients() {
  const urls = servers.map((server) => server.url)
  const people = await logIn(urls[0])
  const jobs = await jobsOf(urls[0], people[3], homes)
  const ids = jobs.flatMap((job) => [job.siteId, job.jobId])
  const connection = await connect()
  const from = await seqsOf(connection, ids)
  const listeners = Array.from({ length: 50 }, (_, index) => new Listener(index % 2 ? urls : [...urls].reverse(), people[3], jobs))
  await Promise.all(listeners.map((one) => one.ready))
  const answered = []
  let over = false
  const shaking = (async () => {
    while (!over) {
      await sleep(100)
      listeners[Math.floor(Math.random() * 50)].drop()
    }
  })()
  await Promise.all(
    listeners.map(async () => {
      for (let turn = 0; turn < 20; turn++) {
        const envelope = randomEnvelope(jobs[Math.floor(Math.random() * jobs.length)])
        answered.push({ envelope, outcome: (await give(Math.random() < 0.5 ? urls : [...urls].reverse(), people[3], envelope)).outcome })
        await sleep(Math.random() * 200)
      }
    }),
  )
  over = true
  await shaking
  const to = await seqsOf(connection, ids)
  const result = await verify(connection, answered)
  const full = (one) => ids.every((id) => one.seen.get(id).length === to.get(id) - from.get(id))
  for (let waited = 0; waited < 30_000 && !listeners.every(full); waited += 100) await sleep(100)
  for (const [index, one] of listeners.entries())
    for (const id of ids) {
      const list = one.seen.get(id)
      const whole = list.length === to.get(id) - from.get(id) && list.every((seq, at) => seq === from.get(id) + 1 + at)
      if (!whole) result.wrong.push(`client ${index} has ${list.length} of ${to.get(id) - from.get(id)} entries of a stream`)
    }
  const events = ids.reduce((sum, id) => sum + to.get(id) - from.get(id), 0)
  const drops = listeners.reduce((sum, one) => sum + one.reconnects, 0)
  await Promise.all(listeners.map((one) => one.close()))
  await connection.end()
  return { tried: answered.length, ...result, note: `${events} entries seen by each of 50 clients over ${drops} reconnections` }
}
await row('two servers, one database, 50 random clients', await fiftyClients())

await row(
  'put back to a second between two backups, while people work',
  await putBackToTheSecond(
    servers.map((server) => server.url),
    database,
  ),
)
for (const [what, fault] of [
  ...quickFaults,
  ['changes played after a backup, to a second, to the end, and refused', changesInSmall],
  ['a company taken to another place while people work', takenElsewhere],
])
  await row(
    what,
    await fault(
      servers.map((server) => server.url),
      database.env,
    ),
  )

/** An entry of a kind this program does not know stands in the record: nobody gets leave, nothing is hidden, the page says so. */
async function newerEvent() {
  const url = servers[0].url
  const people = await logIn(url)
  const [job] = await jobsOf(url, people[3], ['Quay Loft 4'])
  const connection = await connect()
  const [[stream]] = await connection.query('SELECT * FROM streams WHERE id = ?', [job.siteId])
  const seq = stream.seq + 1
  await connection.query(
    `INSERT INTO events SELECT stream_id, ${seq}, UUID(), stream, company_id, command_id, 'somethingFromTomorrow', 1, '{}', actor, at, received_at FROM events WHERE stream_id = ? AND seq = ?`,
    [job.siteId, stream.seq],
  )
  await connection.query('UPDATE streams SET seq = ? WHERE id = ?', [seq, job.siteId])
  await connection.end()
  const wrong = []
  const breakerId = job.breakers[0]
  const ask = async (command) => (await give([url], people[3], envelopeOf('site', job.siteId, command, { basedOnSeq: seq }))).outcome
  const fact = await ask({ type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  if (fact.status !== 'accepted') wrong.push('a fact was refused')
  for (const command of [
    { type: 'requestClose', grantId: crypto.randomUUID(), breakerId, clearanceId: null },
    { type: 'hangTag', tagId: crypto.randomUUID(), breakerId, lock: 'red', measure: '' },
  ]) {
    const outcome = await ask(command)
    if (outcome.status !== 'refused') wrong.push(`${command.type} was granted`)
  }
  const { chromium } = await import('@playwright/test')
  const browser = await chromium.launch({
    executablePath: needProgram('chromium', ['chromium']),
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic'],
  })
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
  const [name, value] = [people[3].cookie.split('=')[0], people[3].cookie.slice(people[3].cookie.indexOf('=') + 1)]
  await context.addCookies([{ name, value, url }])
  const page = await context.newPage()
  await page.goto(`${url}/jobs/${job.jobId}`)
  const shown = await page
    .getByText('an update is needed')
    .first()
    .waitFor({ timeout: 15_000 })
    .then(
      () => true,
      () => false,
    )
  if (!shown) wrong.push('the page does not say that an update is needed')
  if ((await get(url, people[3], `/api/jobs/${job.jobId}`)).siteState.seq < seq) wrong.push('the entry is hidden')
  await browser.close()
  return { tried: 4, survived: 4 - wrong.length, wrong }
}
await row('an old program meets a newer entry', await newerEvent())

/** The phone's own faults: full storage, a killed tab, an expired session. Played in the browser by the end-to-end tests. */
function inTheBrowser(url) {
  const file = join(root, '.circuitry', 'reports', 'faults.json')
  spawnSync(process.execPath, [join(root, 'node_modules/@playwright/test/cli.js'), 'test', 'e2e/offline.spec.ts'], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 64 * 1024 * 1024,
    env: {
      ...process.env,
      CIRCUITRY_TEST_URL: url,
      CIRCUITRY_EMPTY_URL: url,
      CIRCUITRY_CHROMIUM: needProgram('chromium', ['chromium']),
      PLAYWRIGHT_JSON_OUTPUT_NAME: file,
    },
  })
  const rows = []
  const walk = (suite) => {
    for (const inner of suite.suites ?? []) walk(inner)
    for (const spec of suite.specs ?? [])
      rows.push([spec.title, { tried: 1, survived: spec.ok ? 1 : 0, wrong: spec.ok ? [] : ['see npm run test:e2e'] }])
  }
  walk(JSON.parse(readFileSync(file, 'utf8')))
  return rows
}
/** A demo of its own: what the clients before left open at a home would alarm the people of the journeys. */
async function freshDemo() {
  const connection = await connect()
  await connection.query('CREATE DATABASE circuitry_browser CHARACTER SET utf8mb4')
  await connection.end()
  const env = { ...database.env, CIRCUITRY_DB_NAME: 'circuitry_browser', CIRCUITRY_SEED: 'demo' }
  const server = await startServer({ port: await freePort(), env, quiet: true, errorLog })
  servers.push(server)
  return server.url
}
for (const [what, result] of inTheBrowser(await freshDemo())) await row(`browser: ${what}`, result)

const width = Math.max(...table.map(({ what }) => what.length))
say(`\n${'fault'.padEnd(width)}  tried  survived  lost`)
for (const { what, tried, survived, lost } of table)
  say(`${what.padEnd(width)}  ${String(tried).padStart(5)}  ${String(survived).padStart(8)}  ${String(lost).padStart(4)}`)
await end(table.some(({ lost, wrong }) => lost > 0 || wrong.length > 0) ? 1 : 0)
