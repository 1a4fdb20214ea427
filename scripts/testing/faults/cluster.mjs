// npm run test:faults -- --cluster: nodes, servers and the proxy of a cluster are killed and stopped under people who work. Nothing
// that was answered is lost, stored twice or left with a gap, and nobody is granted what contradicts. Ends with a table.
import { randomUUID } from 'node:crypto'
import { connectTo } from '../../lib/backup.mjs'
import { makeCluster } from '../../lib/cluster.mjs'
import { freePort, needBuild, needPackages, say, sleep } from '../../lib/host.mjs'
import { startMariadb } from '../../lib/mariadb.mjs'
import { startServer } from '../../lib/server.mjs'
import { envelopeOf, get, give, heardOtherwise, jobsOf, Listener, logIn, logInAs, median, randomEnvelope } from './crew.mjs'
import { murder } from './murder.mjs'
import { seqsOf, verify } from './verify.mjs'
import { wholeEntries } from './whole-entries.mjs'

const homes = ['Heron House', 'Lock Cottage', 'The Boathouse', 'Tide House']
const clients = 20
/** Writing goes on within this after the writer was killed, ms; it stands no longer than this while a node joins, ms. */
const [goesOnMs, joinMs] = [3000, 5000]

const at95 = (numbers) => [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length * 0.95)] ?? NaN

/** Twenty people who give commands until they are told to stop; when each was answered is kept. */
class Crowd {
  constructor(urls, people, jobs, pauseMs = 60) {
    Object.assign(this, { urls, people, jobs, answered: [], times: [], latencies: [], over: false, repeated: 0 })
    this.work = Promise.all(
      Array.from({ length: clients }, async (_, index) => {
        while (!this.over) {
          const envelope = randomEnvelope(jobs[index % jobs.length])
          const began = Date.now()
          const { outcome, tries } = await give(urls, people[3], envelope, 150_000)
          this.answered.push({ envelope, outcome })
          this.times.push(Date.now())
          if (tries === 1) this.latencies.push(Date.now() - began)
          else this.repeated++
          await sleep(Math.random() * 2 * pauseMs)
        }
      }),
    )
  }
  /** The longest time in which nobody was answered, since a moment, ms. */
  longestSilence(since = 0) {
    const times = [since, ...this.times.filter((time) => time > since)].sort((a, b) => a - b)
    return Math.max(0, ...times.slice(1).map((time, index) => time - times[index]))
  }
  async until(count) {
    for (let waited = 0; this.answered.length < count && waited < 180_000; waited += 50) await sleep(50)
  }
  async stop() {
    this.over = true
    await this.work
  }
}

export async function clusterFaults() {
  needPackages()
  await needBuild()
  const table = []
  const cluster = makeCluster({ name: 'cluster-faults', fresh: true, seed: 'demo', front: await freePort(), quiet: true })
  const row = (what, { tried, lost = 0, wrong = [], stood = null, note = '' }) => {
    table.push({ what, tried, lost, wrong, stood, note })
    say(
      `${lost === 0 && wrong.length === 0 ? 'ok  ' : 'FAIL'} ${what}: tried ${tried}, lost ${lost}${stood === null ? '' : `, stood still ${(stood / 1000).toFixed(1)} s`}${note ? ` (${note})` : ''}`,
    )
    for (const sentence of wrong.slice(0, 10)) say(`     ${sentence}`)
  }
  const nodes = () => cluster.nodes
  const connect = () => connectTo(cluster.database)
  const pause = (n) => process.kill(nodes().pid(n), 'SIGSTOP')
  const goOn = (n) => process.kill(nodes().pid(n), 'SIGCONT')
  /** Who is written to now. */
  const writer = async () => {
    const connection = await connect()
    const [[{ port }]] = await connection.query('SELECT @@port AS port')
    await connection.end()
    return nodes().ports.indexOf(Number(port))
  }
  const allInStep = async () => {
    for (let waited = 0; waited < 120_000; waited += 200) {
      const states = nodes().all.map((n) => (nodes().pid(n) ? nodes().status(n) : null))
      if (states.every((one) => one?.wsrep_local_state_comment === 'Synced' && one.wsrep_cluster_size === '3')) return true
      await sleep(200)
    }
    return false
  }
  /** On every node the same: what one lacks the next writer would not know. */
  const sameEverywhere = async (wrong) => {
    if (!(await allInStep())) return wrong.push('the nodes are not in step again')
    const sums = nodes().all.map(
      (n) =>
        nodes().sql(
          n,
          'SET SESSION wsrep_sync_wait = 1; CHECKSUM TABLE circuitry.events, circuitry.streams, circuitry.commands, circuitry.feeds, circuitry.feed_entries',
        ).stdout,
    )
    if (new Set(sums).size !== 1) wrong.push('the nodes hold different things')
  }
  const people = async () => logIn(cluster.url)
  let who = []
  let jobs = []

  /** A crowd works, something happens, they go on; then everything is looked at. */
  async function under(what, happening, { urls = [cluster.url], limitMs = null } = {}) {
    const crowd = new Crowd(urls, who, jobs)
    await crowd.until(80)
    const since = Date.now()
    const wrong = []
    const said = (await happening({ crowd, wrong })) ?? {}
    await crowd.until(crowd.answered.length + 80)
    const stood = crowd.longestSilence(since)
    await crowd.stop()
    const connection = await connect()
    const result = await verify(connection, crowd.answered)
    wrong.push(...(await heardOtherwise(urls, who[3], crowd.answered.slice(-30))))
    await connection.end()
    await sameEverywhere(wrong)
    if (limitMs !== null && stood > limitMs) wrong.push(`nobody was answered for ${stood} ms, more than ${limitMs}`)
    row(what, {
      ...{ tried: crowd.answered.length, lost: result.lost, wrong: [...result.wrong, ...wrong], stood },
      note: [`${crowd.repeated} sent more than once`, said.note].filter(Boolean).join(', '),
    })
  }

  /** Nobody may be granted to close what somebody else hangs a tag on at the same moment, on another server. */
  async function tagAgainstClose(rounds, what, urls) {
    const odo = who[3]
    // Two who work at the same home today.
    const connection = await connect()
    const [[visit]] = await connection.query(
      `SELECT s.name AS site, MIN(p.login) AS first, MAX(p.login) AS second FROM visits v JOIN sites s ON s.id = v.site_id JOIN visit_people w ON w.visit_id = v.id
       JOIN people p ON p.id = w.person_id AND p.licensed = 1 WHERE v.status IN ('planned', 'onSite') AND DATE(v.starts_at) = UTC_DATE() GROUP BY v.id, s.name HAVING COUNT(*) = 2 ORDER BY v.id LIMIT 1`,
    )
    await connection.end()
    const [bram, kit] = [await logInAs(urls[0], visit.first), await logInAs(urls[0], visit.second)]
    const [job] = await jobsOf(urls[0], odo, [visit.site])
    const wrong = []
    const counts = { tag: 0, close: 0, both: 0, none: 0 }
    for (let round = 0; round < rounds; round++) {
      const breakerId = job.breakers[round % job.breakers.length]
      const { siteState } = await get(urls[0], odo, `/api/jobs/${job.jobId}`)
      const over = { basedOnSeq: siteState.seq }
      const tell = (url, person, command, more = over) =>
        give([url], person, envelopeOf('site', job.siteId, command, more)).then(({ outcome }) => outcome)
      await tell(urls[0], odo, { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
      const seq = (await get(urls[0], odo, `/api/jobs/${job.jobId}`)).siteState.seq
      const [tagId, grantId] = [randomUUID(), randomUUID()]
      const [tag, close] = await Promise.all([
        tell(urls[1], bram, { type: 'hangTag', tagId, breakerId, lock: 'red', measure: '' }, { basedOnSeq: seq }),
        tell(urls[2], kit, { type: 'requestClose', grantId, breakerId, clearanceId: null }, { basedOnSeq: seq }),
      ])
      const granted = [tag, close].map(({ status }) => status === 'accepted')
      counts[granted[0] ? (granted[1] ? 'both' : 'tag') : granted[1] ? 'close' : 'none']++
      const after = (await get(urls[0], odo, `/api/jobs/${job.jobId}`)).siteState
      if (after.tags[tagId] && after.grants[grantId]) wrong.push(`round ${round}: a tag hangs and leave to close stands`)
      if (granted[0]) await tell(urls[1], bram, { type: 'removeTag', tagId }, { basedOnSeq: after.seq })
      if (granted[1]) await tell(urls[2], kit, { type: 'answerPermit', grantId, answer: 'givenUp' }, { basedOnSeq: after.seq })
    }
    if (counts.tag + counts.close + counts.both < rounds / 2) wrong.push('most were refused both: nothing was raced')
    row(`${rounds} races of a tag against leave to close, ${what}`, {
      ...{ tried: 2 * rounds, wrong },
      note: `tag first ${counts.tag}, close first ${counts.close}, both ${counts.both}, neither ${counts.none}`,
    })
  }

  /** A phone that changes its server in the middle of the feed has every entry once. */
  async function movingPhones() {
    const urls = cluster.servers.map(({ url }) => url)
    const ids = jobs.flatMap((job) => [job.siteId, job.jobId])
    const connection = await connect()
    const from = await seqsOf(connection, ids)
    const listeners = Array.from(
      { length: 12 },
      (_, index) => new Listener([...urls.slice(index % 3), ...urls.slice(0, index % 3)], who[3], jobs),
    )
    await Promise.all(listeners.map((one) => one.ready))
    const crowd = new Crowd([cluster.url], who, jobs)
    const wrong = []
    while (crowd.answered.length < 500) {
      await sleep(120)
      listeners[Math.floor(Math.random() * listeners.length)].drop()
    }
    await crowd.stop()
    const to = await seqsOf(connection, ids)
    const full = (one) => ids.every((id) => one.seen.get(id).length === to.get(id) - from.get(id))
    for (let waited = 0; waited < 30_000 && !listeners.every(full); waited += 100) await sleep(100)
    for (const [index, one] of listeners.entries())
      for (const id of ids)
        if (!one.seen.get(id).every((seq, at) => seq === from.get(id) + 1 + at) || !full(one))
          wrong.push(`phone ${index} lacks entries of ${id}`)
    const moves = listeners.reduce((sum, one) => sum + one.reconnects, 0)
    await Promise.all(listeners.map((one) => one.close()))
    const result = await verify(connection, crowd.answered)
    await connection.end()
    const entries = ids.reduce((sum, id) => sum + to.get(id) - from.get(id), 0)
    row('phones that change their server in mid-stream', {
      ...{ tried: crowd.answered.length, lost: result.lost, wrong: [...result.wrong, ...wrong] },
      note: `${entries} entries heard by each of 12 phones over ${moves} changes`,
    })
  }

  /** Two proxies that know nothing of each other, or somebody's mistake: each server writes to a node of its own. */
  async function everyNodeWrittenTo() {
    const servers = []
    for (const port of nodes().ports)
      servers.push(
        await startServer({
          port: await freePort(),
          env: { ...nodes().env(port), CIRCUITRY_MIGRATE: 'no' },
          quiet: true,
          errorLog: cluster.errorLog,
        }),
      )
    const urls = servers.map(({ url }) => url)
    await tagAgainstClose(60, 'over two nodes that are both written to', urls)
    await under('every node is written to', ({ crowd }) => crowd.until(400), { urls })
    for (const server of servers) await server.stop()
  }

  /** How long a command takes, and how soon the client of another server hears of it, beside one server with its own database. */
  async function compared() {
    const database = await startMariadb('cluster-alone', { fresh: true })
    const alone = await startServer({ port: await freePort(), env: { ...database.env, CIRCUITRY_SEED: 'demo' }, quiet: true })
    const measure = async (url) => {
      const [, , , odo] = await logIn(url)
      const [job] = await jobsOf(url, odo, ['Heron House'])
      const times = []
      for (let n = 0; n < 120; n++) {
        const began = performance.now()
        await give(
          [url],
          odo,
          envelopeOf('job', job.jobId, { type: 'listDefect', defectId: randomUUID(), pointId: null, text: `number ${n}` }),
        )
        times.push(performance.now() - began)
        await sleep(20)
      }
      return times.slice(20)
    }
    // One after the other, twice, so that neither has the quieter machine.
    const own = [...(await measure(alone.url)), ...(await measure(alone.url))]
    const clustered = [...(await measure(cluster.url)), ...(await measure(cluster.url))]
    own.push(...(await measure(alone.url)))
    clustered.push(...(await measure(cluster.url)))
    await alone.stop()
    await database.stop()
    const ratio = median(clustered) / median(own)
    row('a command on the cluster, beside one server alone', {
      ...{ tried: clustered.length, wrong: ratio > 1.5 ? [`it takes ${ratio.toFixed(2)} times as long, more than 1.5`] : [] },
      note: `p50 ${median(clustered).toFixed(0)} ms against ${median(own).toFixed(0)} ms: ${ratio.toFixed(2)}; p95 ${at95(clustered).toFixed(0)} against ${at95(own).toFixed(0)}`,
    })
  }

  /** How soon somebody on another server hears of what was given on this one. */
  async function heardElsewhere() {
    const [here, there] = cluster.servers.map(({ url }) => url)
    const [job] = jobs
    const listener = new Listener([there], who[3], jobs)
    await listener.ready
    const waits = []
    const command = () => ({ type: 'listDefect', defectId: randomUUID(), pointId: null, text: 'heard elsewhere' })
    for (let n = 0; n < 110; n++) {
      const { outcome } = await give([here], who[3], envelopeOf('job', job.jobId, command()))
      const answered = performance.now()
      const key = `${job.jobId} ${outcome.seq}`
      for (let waited = 0; !listener.heard.has(key) && waited < 5000; waited += 5) await sleep(5)
      // The first few tell that server that it is not alone.
      if (n >= 10) waits.push(Math.max(0, (listener.heard.get(key) ?? Infinity) - answered))
      await sleep(30 + Math.random() * 60)
    }
    await listener.close()
    const p95 = at95(waits)
    row('heard by the client of another server', {
      ...{
        tried: waits.length,
        lost: waits.filter((one) => one === Infinity).length,
        wrong: p95 > 100 ? [`p95 ${p95.toFixed(0)} ms, more than 100`] : [],
      },
      note: `p50 ${median(waits).toFixed(0)} ms, p95 ${p95.toFixed(0)} ms after the answer`,
    })
  }

  try {
    await cluster.start()
    who = await people()
    jobs = await jobsOf(cluster.url, who[3], homes)
    await compared()
    await heardElsewhere()
    await tagAgainstClose(
      100,
      'over two servers',
      cluster.servers.map(({ url }) => url),
    )
    await everyNodeWrittenTo()
    await movingPhones()
    await under(
      'the writer killed (kill -9)',
      async ({ crowd, wrong }) => {
        const first = await writer()
        await murder(nodes().pid(first))
        await crowd.until(crowd.answered.length + 60)
        const next = await writer()
        if (next === first) wrong.push('it is still the one that was killed')
        await nodes().join(first, next)
        await sleep(1500)
        if ((await writer()) !== next) wrong.push('who came back took the writing back')
        return { note: `node ${first + 1}, then node ${next + 1}` }
      },
      { limitMs: goesOnMs },
    )
    await under('a node that is not written to killed', async () => {
      const first = await writer()
      const other = first === 0 ? 1 : 0
      await murder(nodes().pid(other))
      await sleep(4000)
      await nodes().join(other, first)
    })
    await under('a node joins under load, from nothing', async ({ crowd, wrong }) => {
      const first = await writer()
      const other = first === 2 ? 1 : 2
      await murder(nodes().pid(other))
      await sleep(5000)
      nodes().empty(other)
      const since = Date.now()
      await nodes().join(other, first)
      const stood = crowd.longestSilence(since)
      if (stood > joinMs) wrong.push(`writing stood still for ${stood} ms while it joined, more than ${joinMs}`)
      return { note: `${(stood / 1000).toFixed(1)} s while it joined` }
    })
    await under('one node stops answering (SIGSTOP), and wakes', async () => {
      const first = await writer()
      pause(first)
      await sleep(9000)
      goOn(first)
    })
    await under('two of three stop answering: nothing is acknowledged', async ({ crowd, wrong }) => {
      const first = await writer()
      const others = nodes().all.filter((n) => n !== first)
      for (const n of others) pause(n)
      await sleep(6000)
      const before = crowd.answered.length
      await sleep(6000)
      const given = crowd.answered.length - before
      if (given > 0) wrong.push(`${given} commands were answered without a majority`)
      for (const n of others) goOn(n)
    })
    await under('all nodes killed at once, and started again', async () => {
      await Promise.all(nodes().all.map((n) => murder(nodes().pid(n))))
      await nodes().start()
    })
    await under('a server killed', async () => {
      await murder(cluster.servers[0].pid)
      await sleep(2000)
      await cluster.startServer(0)
    })
    await under('the proxy killed', async () => {
      await murder(cluster.proxy.pid)
      await sleep(1000)
      await cluster.startProxy()
    })
    await under('the tables are brought up to date under load', async () => {
      await cluster.migrate()
      const connection = await connect()
      await connection.query('ALTER TABLE events ADD COLUMN tried TINYINT NULL')
      await connection.query('ALTER TABLE events DROP COLUMN tried')
      await connection.end()
    })
    const urls = cluster.servers.map(({ url }) => url)
    row('10,000 entries of the feed, with what they stand for', await wholeEntries(urls, who[3], 10_000))
  } finally {
    await cluster.stop()
  }
  const width = Math.max(...table.map(({ what }) => what.length))
  say(`\n${'fault'.padEnd(width)}  tried  lost  stood still`)
  for (const { what, tried, lost, stood } of table)
    say(
      `${what.padEnd(width)}  ${String(tried).padStart(5)}  ${String(lost).padStart(4)}  ${stood === null ? '' : `${(stood / 1000).toFixed(1)} s`}`,
    )
  return table.every(({ lost, wrong }) => lost === 0 && wrong.length === 0)
}
