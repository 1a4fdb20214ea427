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
await needBuild()
const { bigSite, crewOfBench, fill, openProject } = await import('./load.mjs')
const project = await openProject(database.env)
say('Filling 200 jobs of 300 events …')
const { copies, events } = await fill(project, { jobs: 200, eventsPerJob: 300 })
server = await startServer({ port: await freePort(), env: database.env, quiet: true })

async function session(login = 'bench.lead') {
  const answer = await fetch(`${server.url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login, password: 'bench password' }),
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
const crew = []
for (let index = 0; index < crewOfBench; index++) crew.push(await session(`bench.${index}`))
/** An open feed that notes when it heard of each command. */
async function listen(heard, index) {
  const stop = new AbortController()
  const answer = await fetch(`${server.url}/api/feed`, { headers: { cookie: crew[index % crew.length] }, signal: stop.signal })
  if (!answer.ok) throw new Error(`a feed: ${answer.status}`)
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader()
  void (async () => {
    let rest = ''
    for (;;) {
      const { value, done } = await reader.read().catch(() => ({ done: true }))
      if (done) return
      rest += value
      const parts = rest.split('\n\n')
      rest = parts.pop()
      for (const part of parts) for (const match of part.matchAll(/"commandId":"([^"]+)"/g)) heard.get(match[1])?.push(performance.now())
    }
  })()
  return stop
}
const closers = []
for (let i = 0; i < 20; i++) closers.push(await listen(seen, i))
await new Promise((resolve) => setTimeout(resolve, 300))
const { randomUUID } = await import('node:crypto')
const answered = []
const started = new Map()
async function post(stream, streamId, command, id = randomUUID()) {
  const answer = await fetch(`${server.url}/api/commands`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ id, stream, streamId, at: new Date().toISOString(), basedOnSeq: 1_000_000, command }),
  })
  const outcome = await answer.json()
  if (outcome.status !== 'accepted') throw new Error(JSON.stringify(outcome))
}
const defect = (text) => ({ type: 'listDefect', defectId: randomUUID(), pointId: null, text })
const pageOf = async (jobId) => (await fetch(`${server.url}/api/jobs/${jobId}`, { headers: { cookie } })).json()
async function give(index) {
  const id = randomUUID()
  seen.set(id, [])
  started.set(id, performance.now())
  await post('job', copies[index % copies.length].jobId, defect(`bench ${index}`), id)
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
const cost = p(baseline, 0.5) + 8 * p(commits, 0.5)
row(
  'one command, beside an empty answer and eight durable rows',
  `p50 ${p(answered, 0.5).toFixed(1)} ms of ${cost.toFixed(1)} ms`,
  'not more',
  p(answered, 0.5) <= cost,
)
row(
  'command → seen by each of 20 connected clients',
  `${shape(delays)}${missing ? `, ${missing} not seen by all` : ', all seen by all'}, ${(p(delays, 0.95) / p(commits, 0.95)).toFixed(1)} × one durable row`,
  'p95 under 150 ms',
  p(delays, 0.95) < 150 && missing === 0,
)

// A crew day: 60 people on 20 jobs, five commands a second, then bursts of a hundred at once.
const crewSeen = new Map()
const crewFeeds = []
for (let i = 0; i < 60; i++) crewFeeds.push(await listen(crewSeen, i))
const share = { answered: [], started: new Map() }
async function crewGives(index) {
  const { jobId, siteId } = copies[index % 20]
  const id = randomUUID()
  crewSeen.set(id, [])
  share.started.set(id, performance.now())
  if (index % 2) await post('job', jobId, defect(`crew ${index}`), id)
  else await post('site', siteId, { type: 'observeLive', boxId: siteBoxes[siteId], what: 'lightOn', volts: null, note: '' }, id)
  share.answered.push(performance.now() - share.started.get(id))
}
const siteBoxes = {}
const crewDelays = () => [...crewSeen].flatMap(([id, times]) => times.map((time) => time - share.started.get(id)))
const crewMissing = () => [...crewSeen.values()].filter((times) => times.length !== 60).length
for (let i = 0; i < 20; i++) siteBoxes[copies[i].siteId] = Object.keys((await pageOf(copies[i].jobId)).siteState.boxes)[0]
for (let i = 0; i < 100; i++) {
  void crewGives(i)
  await new Promise((resolve) => setTimeout(resolve, 200))
}
await new Promise((resolve) => setTimeout(resolve, 1500))
row(
  '60 people on 20 jobs, 5 commands a second: answered',
  `${shape(share.answered)}, ${(p(share.answered, 0.95) / p(baseline, 0.95)).toFixed(1)} × “who am I”`,
  'p95 under 100 ms',
  p(share.answered, 0.95) < 100,
)
row(
  'the same: seen by each of the 60',
  `${shape(crewDelays())}${crewMissing() ? `, ${crewMissing()} not seen by all` : ', all seen by all'}`,
  'p95 under 200 ms',
  p(crewDelays(), 0.95) < 200 && crewMissing() === 0,
)
share.answered.length = 0
crewSeen.clear()
for (let burst = 0; burst < 3; burst++) {
  await Promise.all(Array.from({ length: 100 }, (_, i) => crewGives(burst * 100 + i)))
  await new Promise((resolve) => setTimeout(resolve, 1500))
}
row('bursts of 100 at once in one company: answered', shape(share.answered), 'p95 under 600 ms', p(share.answered, 0.95) < 600)
row('the same: seen by each of the 60', shape(crewDelays()), 'p95 under 800 ms', p(crewDelays(), 0.95) < 800)
row('bursts of 100: nothing lost', `${crewMissing()} of ${crewSeen.size} not seen by all`, '0', crewMissing() === 0)
for (const stop of crewFeeds) stop.abort()

/** How many of these are answered in a second, 24 at a time. */
async function perSecond(one, ms = 5000) {
  let done = 0
  const until = performance.now() + ms
  await Promise.all(
    Array.from({ length: 24 }, async (_, client) => {
      while (performance.now() < until) {
        await one(client)
        done++
      }
    }),
  )
  return (done / ms) * 1000
}
const empties = await perSecond(() => timed('/api/auth/me'))
const written = await perSecond((client) => post('job', copies[client % 20].jobId, defect(`steady ${client}`)))
/** Commands a second of one company before they were written in groups, on the machine of docs/performance.md. */
const oneByOne = 75
row(
  'commands a second of one company',
  `${written.toFixed(0)}, ${(written / empties).toFixed(2)} × the ${empties.toFixed(0)} empty answers a second`,
  `4 × ${oneByOne}, and a third of the empty answers`,
  written >= 4 * oneByOne && written >= empties / 3,
)

// What an idle connection costs the server.
const rss = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))[1])
await new Promise((resolve) => setTimeout(resolve, 1500))
const before = rss()
const idle = []
for (let i = 0; i < 1000; i++) idle.push(await listen(new Map(), i))
await new Promise((resolve) => setTimeout(resolve, 1500))
const perFeed = (rss() - before) / 1000
row('memory of an idle live connection', `${perFeed.toFixed(0)} kB (1,000 of them)`, 'under 200 kB', perFeed < 200)
for (const stop of idle) stop.abort()

// A phone that missed 1,000 entries: fetched and folded.
const longest = copies[0]
while ((await pageOf(longest.jobId)).jobState.seq < 1_001)
  await Promise.all(Array.from({ length: 20 }, (_, i) => post('job', longest.jobId, defect(`missed ${i}`))))
const core = {
  stream: await project.load('core/stream/index.ts'),
  record: await project.load('core/job/index.ts'),
  safety: await project.load('core/site/index.ts'),
}
const catchUps = []
for (let i = 0; i < 5; i++) {
  const begun = performance.now()
  const from = await fetch(`${server.url}/api/events?stream=job&streamId=${longest.jobId}&after=0`, { headers: { cookie } })
  const { events: missed } = await from.json()
  core.stream.foldEvents(core.record.jobStream.reducer, core.record.emptyJob(longest.jobId), missed.slice(0, 1000))
  catchUps.push(performance.now() - begun)
}
row('catch-up of 1,000 missed entries, fetched and folded', shape(catchUps), 'under 1 s', Math.max(...catchUps) < 1000)

// Decisions on a big site.
const big = await bigSite(core, { boxes: 40, breakers: 60 })
for (const [what, decide] of [
  ['may this person touch', (i) => core.safety.canTouch(big.state, big.boxIds[i % 40], big.asker, big.clock)],
  ['may this breaker be closed', (i) => core.safety.canClose(big.state, big.openIds[i % big.openIds.length], big.asker)],
  ['may a tag hang here', (i) => core.safety.canTag(big.state, big.breakerIds[i % 60], big.asker)],
  ['may this person measure live', (i) => core.safety.canMeasure(big.state, big.boxIds[i % 40], big.asker, big.clock)],
]) {
  const times = Array.from({ length: 2000 }, (_, i) => {
    const begun = performance.now()
    decide(i)
    return performance.now() - begun
  })
  row(
    `“${what}”, 40 boxes, 60 breakers`,
    `p50 ${p(times, 0.5).toFixed(3)} ms, p95 ${p(times, 0.95).toFixed(3)} ms`,
    'p95 under 1 ms',
    p(times, 0.95) < 1,
  )
}

// Fold in core.
const { foldEvents } = await project.load('core/stream/index.ts')
const { emptyJob, jobStream } = await project.load('core/job/index.ts')
const { emptySite, siteStream } = await project.load('core/site/index.ts')
const golden = JSON.parse(readFileSync(join(root, 'core/job/golden/0.1.0.json'), 'utf8'))
const repeat = (stream) => {
  const list = golden.events.filter((event) => event.stream === stream)
  const [head, ...tail] = list
  const many = [head]
  while (many.length < 10_000) many.push({ ...tail[(many.length - 1) % tail.length], seq: many.length + 1 })
  return many
}
const folds = [
  ['job', jobStream.reducer, emptyJob],
  ['site', siteStream.reducer, emptySite],
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
// What a service worker fetches for later delays nothing that is shown.
const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' })
await context.addCookies([{ name: cookie.split('=')[0], value: cookie.slice(cookie.indexOf('=') + 1), url: server.url }])
const { jobId } = copies[1]
const site = (await pageOf(jobId)).siteState
for (const [name, path] of [
  ['my day', '/my-day'],
  ['job walk', `/jobs/${jobId}`],
  ['box bench', `/jobs/${jobId}/box/${Object.keys(site.boxes)[0]}`],
  ['tests', `/jobs/${jobId}/tests`],
]) {
  const page = await context.newPage()
  // Noted in the page itself: what is fetched a moment later delays nothing.
  await page.addInitScript(() => {
    const look = new MutationObserver(() => {
      if (!document.querySelector('h1')) return
      look.disconnect()
      window.shownAt = performance.now()
    })
    look.observe(document, { childList: true, subtree: true })
  })
  await page.goto(server.url + path)
  await page.getByRole('heading', { level: 1 }).waitFor()
  const scripts = await page.evaluate(() => [
    ...new Set(
      performance
        .getEntriesByType('resource')
        .filter(({ name, responseEnd }) => /\.js(\?|$)/.test(name) && responseEnd <= window.shownAt)
        .map(({ name }) => new URL(name).pathname),
    ),
  ])
  const bytes = scripts.reduce((sum, file) => sum + gzipSync(readFileSync(join(root, '.output/public', file)), { level: 9 }).length, 0)
  row(`JavaScript of “${name}”, gzip`, `${(bytes / 1024).toFixed(0)} kB in ${scripts.length} files`, 'under 280 kB', bytes < 280 * 1024)
  await page.close()
}
// The page's own thread while the wiring bench computes: tasks of 50 ms and more, from the first probe to the proven plan.
{
  const page = await context.newPage()
  await page.goto(`${server.url}/practice/sail-room`)
  const probe = page.getByRole('button', { name: /^(Put the probes there|Take the \d+ readings)$/ })
  await probe.waitFor()
  await page.waitForTimeout(1000)
  await page.evaluate(() => {
    globalThis.longTasks = []
    new PerformanceObserver((list) => globalThis.longTasks.push(...list.getEntries().map((entry) => entry.duration))).observe({
      entryTypes: ['longtask'],
    })
  })
  let steps = 0
  while (!(await page.getByTestId('verdicts').isVisible())) {
    if (await probe.isVisible()) {
      await probe.click()
      steps++
    }
    await page.waitForTimeout(400)
  }
  await page.waitForTimeout(1000)
  const long = await page.evaluate(() => globalThis.longTasks)
  row(
    'tasks of 50 ms and more on the page while the wiring bench computes',
    `${long.length} in ${steps} steps${long.length ? `, longest ${Math.max(...long).toFixed(0)} ms` : ''}`,
    'none',
    long.length === 0,
  )
  await page.close()
}
await browser.close()
await server.stop()
await project.database.closeDatabase()
await database.stop()
writeFileSync(join(root, '.circuitry', 'bench.json'), JSON.stringify(report, null, 2))
say(`\n${report.filter((line) => line.good).length} of ${report.length} numbers met.`)
process.exit(0)
