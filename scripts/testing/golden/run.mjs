// npm run golden -- NAME: streams as this program writes them, with what it folds them to, for the programs that follow.
// Of the demo's homes and the simulated crew's days as few as have every kind of entry that any of them has.
import { existsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createJiti } from 'jiti'
import { root, say, Stop } from '../../lib/host.mjs'
import { startMariadb } from '../../lib/mariadb.mjs'

const name = process.argv[2]
if (!/^[\w.-]+$/.test(name ?? '')) throw new Stop('Say the name of the release: npm run golden -- 0.2.0')
const file = join(root, 'core/job/golden', `${name}.json`)
if (existsSync(file)) throw new Stop(`${file} is there already. What a release wrote is never written anew.`)

const db = await startMariadb('golden', { fresh: true, fast: true })
Object.assign(process.env, db.env)
process.env.CIRCUITRY_SECRET_KEY ??= Buffer.alloc(32, 7).toString('base64')
const jiti = createJiti(import.meta.url)
const load = (path) => jiti.import(`../../../${path}`)
const { database, migrate } = await load('server/database/index.ts')
const { seedDemo } = await load('server/database/demo/seed.ts')
const { streams } = await load('core/streams.ts')
const { foldEvents } = await load('core/stream/index.ts')
const { eventsAfter } = await load('server/services/streams.ts')
const { rareDay } = await load('core/testing/rare-day.ts')
const { simulatedDays } = await load('core/testing/simulated-days.ts')
await migrate(database().sequelize)
await seedDemo(new Date())
const rows = await database().models.streams.findAll({ order: [['id', 'ASC']], raw: true })
const written = []
for (const { id, kind } of rows) written.push({ kind, id, events: await eventsAfter(id, 0) })
await db.stop()
const rare = rareDay().log
for (const kind of ['site', 'job']) {
  const events = rare.filter(({ stream }) => stream === kind)
  written.push({ kind, id: events[0].streamId, events })
}
for (const { log } of simulatedDays()) if (log.length) written.push({ kind: 'site', id: log[0].streamId, events: log })

// As few as have every kind of entry that any of them has, each up to the last that is new.
const known = new Set()
const fresh = ({ kind, events }) => new Set(events.map(({ type }) => `${kind} ${type}`).filter((type) => !known.has(type))).size
const chosen = []
for (;;) {
  const best = written.reduce((most, one) => (fresh(one) / one.events.length > fresh(most) / most.events.length ? one : most))
  if (!fresh(best)) break
  const until = best.events.findLastIndex(({ type }) => !known.has(`${best.kind} ${type}`))
  const events = best.events.slice(0, until + 1)
  chosen.push({ ...best, events })
  for (const { type } of events) known.add(`${best.kind} ${type}`)
}
const golden = chosen.map(({ kind, id, events }) => ({
  kind,
  id,
  events,
  expected: foldEvents(streams[kind].reducer, streams[kind].empty(id), structuredClone(events)),
}))
writeFileSync(file, `${JSON.stringify({ streams: golden })}\n`)
say(
  `${golden.length} of ${written.length} streams, ${golden.reduce((sum, { events }) => sum + events.length, 0)} entries of ${known.size} kinds: ${file}`,
)
process.exit(0)
