// npm run bench: the numbers of this program, from the production build, with 200 jobs of 300 events.
// Times are given beside a baseline of the same run (an empty answer of the same server), because machines differ.
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { freePort, needBuild, needPackages, root, say } from '../lib/host.mjs'
import { startMariadb } from '../lib/mariadb.mjs'
import { startServer } from '../lib/server.mjs'

const p = (values, share) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.ceil(values.length * share) - 1)]
const shape = (values) =>
  `p50 ${p(values, 0.5).toFixed(1)} ms, p95 ${p(values, 0.95).toFixed(1)} ms, max ${Math.max(...values).toFixed(1)} ms (n = ${values.length})`
const report = []
function row(what, measured, limit, good) {
  report.push({ what, measured, limit, good })
  say(`${good ? 'met   ' : 'MISSED'} ${what}: ${measured} (wanted: ${limit})`)
}

needPackages()
const database = await startMariadb('bench', { fresh: true })
let server = null
// Whatever goes wrong, neither server outlives this run.
process.on('uncaughtException', (error) => {
  console.error(error)
  void (async () => {
    await server?.stop()
    await database.stop()
    process.exit(1)
  })()
})
needBuild()
const { fill, openProject } = await import('./load.mjs')
const project = await openProject(database.env)
say('Filling 200 jobs of 300 events …')
const { copies, events } = await fill(project, { jobs: 200, eventsPerJob: 300 })
server = await startServer({ port: await freePort(), env: database.env, quiet: true })

async function session() {
  const answer = await fetch(`${server.url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'bench.lead', password: 'bench password' }),
  })
  return answer.headers.getSetCookie()[0].split(';')[0]
}
const cookie = await session()
async function timed(path) {
  const started = performance.now()
  const answer = await fetch(server.url + path, { headers: { cookie } })
  await answer.arrayBuffer()
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
  return performance.now() - started
}

// Job page data: every job once cold, then again warm. The time includes the loopback and reading the answer.
const baseline = []
for (let i = 0; i < 200; i++) baseline.push(await timed('/api/auth/me'))
const cold = []
for (const { jobId } of copies) cold.push(await timed(`/api/jobs/${jobId}`))
const warm = []
for (let round = 0; round < 3; round++) for (const { jobId } of copies) warm.push(await timed(`/api/jobs/${jobId}`))
say(`baseline, “who am I”: ${shape(baseline)}`)
row(
  `job page data, warm, ${events} events a job`,
  `${shape(warm)}, ${(p(warm, 0.95) / p(baseline, 0.95)).toFixed(1)} × baseline`,
  'p95 under 50 ms',
  p(warm, 0.95) < 50,
)
row(
  'job page data, first reading of each job',
  `${shape(cold)}, ${(p(cold, 0.95) / p(baseline, 0.95)).toFixed(1)} × baseline`,
  'p95 under 50 ms',
  p(cold, 0.95) < 50,
)

// Command to seen by another connected client, 20 open feeds.
const seen = new Map()
const closers = []
for (let i = 0; i < 20; i++) {
  const stop = new AbortController()
  const answer = await fetch(`${server.url}/api/feed`, { headers: { cookie }, signal: stop.signal })
  closers.push(stop)
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader()
  void (async () => {
    let rest = ''
    for (;;) {
      const { value, done } = await reader.read().catch(() => ({ done: true }))
      if (done) return
      rest += value
      const parts = rest.split('\n\n')
      rest = parts.pop()
      for (const part of parts) for (const match of part.matchAll(/"commandId":"([^"]+)"/g)) seen.get(match[1])?.push(performance.now())
    }
  })()
}
await new Promise((resolve) => setTimeout(resolve, 300))
const { randomUUID } = await import('node:crypto')
const answered = []
const started = new Map()
async function give(index) {
  const id = randomUUID()
  const { jobId } = copies[index % copies.length]
  seen.set(id, [])
  started.set(id, performance.now())
  const answer = await fetch(`${server.url}/api/commands`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({
      id,
      stream: 'job',
      streamId: jobId,
      at: new Date().toISOString(),
      command: { type: 'listDefect', defectId: randomUUID(), pointId: null, text: `bench ${index}` },
    }),
  })
  const outcome = await answer.json()
  if (outcome.status !== 'accepted') throw new Error(JSON.stringify(outcome))
  answered.push(performance.now() - started.get(id))
}
for (let i = 0; i < 150; i++) {
  await give(i)
  await new Promise((resolve) => setTimeout(resolve, 20))
}
await new Promise((resolve) => setTimeout(resolve, 1500))
const delays = [...seen].flatMap(([id, times]) => times.map((time) => time - started.get(id)))
const missing = [...seen.values()].filter((times) => times.length !== 20).length
for (const stop of closers) stop.abort()
const { sequelize } = project.database.database()
await sequelize.query('CREATE TABLE bench_baseline (id INT AUTO_INCREMENT PRIMARY KEY, text VARCHAR(40)) ENGINE=InnoDB')
const commits = []
for (let i = 0; i < 150; i++) {
  const begun = performance.now()
  await sequelize.query("INSERT INTO bench_baseline (text) VALUES ('one durable row')")
  commits.push(performance.now() - begun)
}
say(`baseline, one durable row: ${shape(commits)}`)
say(`command answered: ${shape(answered)}`)
row(
  'command → seen by each of 20 connected clients',
  `${shape(delays)}${missing ? `, ${missing} not seen by all` : ', all seen by all'}, ${(p(delays, 0.95) / p(commits, 0.95)).toFixed(1)} × one durable row`,
  'p95 under 150 ms',
  p(delays, 0.95) < 150 && missing === 0,
)

// Fold in core.
const { foldEvents } = await project.load('core/stream/index.ts')
const { emptyJob, jobReducer } = await project.load('core/record/index.ts')
const { emptySite, siteReducer } = await project.load('core/safety/index.ts')
const golden = JSON.parse(readFileSync(join(root, 'core/record/golden/0.1.0.json'), 'utf8'))
const repeat = (stream) => {
  const list = golden.events.filter((event) => event.stream === stream)
  const [head, ...tail] = list
  const many = [head]
  while (many.length < 10_000) many.push({ ...tail[(many.length - 1) % tail.length], seq: many.length + 1 })
  return many
}
const folds = [
  ['job', jobReducer, emptyJob],
  ['site', siteReducer, emptySite],
].map(([stream, reducer, empty]) => {
  const list = repeat(stream)
  const times = Array.from({ length: 9 }, () => {
    const begun = performance.now()
    foldEvents(reducer, empty('bench'), list)
    return performance.now() - begun
  })
  return [stream, times]
})
for (const [stream, times] of folds) row(`fold of 10,000 ${stream} events`, shape(times), 'under 100 ms', p(times, 0.5) < 100)

// JavaScript the field pages load before they show anything, measured in the browser that loads them.
const { chromium } = await import('@playwright/test')
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
await context.addCookies([{ name: cookie.split('=')[0], value: cookie.slice(cookie.indexOf('=') + 1), url: server.url }])
const { jobId } = copies[1]
const site = (await (await fetch(`${server.url}/api/jobs/${jobId}`, { headers: { cookie } })).json()).siteState
for (const [name, path] of [
  ['my day', '/my-day'],
  ['job walk', `/jobs/${jobId}`],
  ['box bench', `/jobs/${jobId}/box/${Object.keys(site.boxes)[0]}`],
  ['tests', `/jobs/${jobId}/tests`],
]) {
  const page = await context.newPage()
  const scripts = new Set()
  page.on('response', (answer) => {
    if (/\.js(\?|$)/.test(answer.url())) scripts.add(new URL(answer.url()).pathname)
  })
  await page.goto(server.url + path)
  await page.getByRole('heading', { level: 1 }).waitFor()
  await page.waitForTimeout(300)
  const bytes = [...scripts].reduce((sum, file) => sum + gzipSync(readFileSync(join(root, '.output/public', file)), { level: 9 }).length, 0)
  row(`JavaScript of “${name}”, gzip`, `${(bytes / 1024).toFixed(0)} kB in ${scripts.size} files`, 'under 350 kB', bytes < 350 * 1024)
  await page.close()
}
await browser.close()
await server.stop()
await project.database.closeDatabase()
await database.stop()
writeFileSync(join(root, '.circuitry', 'bench.json'), JSON.stringify(report, null, 2))
say(`\n${report.filter((line) => line.good).length} of ${report.length} numbers met.`)
process.exit(0)
