// npm run bench:insight: what the company learns, of 20,000 jobs with five devices each. Times are given beside a baseline of the
// same run (counting the rows of one table), because machines differ. Rows are written as the records of jobs leave them.
import { randomUUID } from 'node:crypto'
import { needPackages, say } from '../lib/host.mjs'
import { startMariadb } from '../lib/mariadb.mjs'
import { openProject } from './load.mjs'

const [jobs, perJob, atOnce] = [20_000, 5, 4_000]
const day = 86_400_000
needPackages()
const stored = await startMariadb('bench', { fresh: true })
try {
  const project = await openProject(stored.env)
  const { database, load, company, access } = project
  const { models, sequelize } = database.database()
  const viewer = await access.viewerOf(
    await company.setUp({
      ...{ company: 'Bench', branch: 'Bench', schemeId: 'na120', timezone: 'UTC' },
      person: { name: 'Bench Lead', initials: 'BL', login: 'bench.lead', password: 'bench password', licensed: true },
    }),
  )
  const base = { companyId: viewer.companyId, branchId: viewer.branchId }
  const kinds = Array.from({ length: 40 }, (_, index) => `Maker ${index % 8} model ${index}`)
  const chosen = (list) => list[Math.floor(Math.random() * list.length)]
  await sequelize.query('SET GLOBAL foreign_key_checks = 0').catch(() => undefined)
  const siteId = randomUUID()
  say(`Writing ${jobs.toLocaleString('en')} jobs …`)
  const customer = randomUUID()
  await models.customers.create({ id: customer, companyId: viewer.companyId, name: 'Bench', phone: '', email: '' })
  await models.sites.create({
    ...base,
    id: siteId,
    customerId: customer,
    name: 'Bench',
    address: '1 Bench',
    doorCode: null,
    position: null,
  })
  for (let from = 0; from < jobs; from += atOnce) {
    const rows = { jobs: [], units: [], callbacks: [] }
    for (let number = from; number < from + atOnce; number++) {
      const handedOverAt = new Date(Date.now() - Math.random() * 1095 * day)
      const job = { id: randomUUID(), ...base, siteId, customerId: customer, number: number + 1, title: 'Bench', status: 'handedOver' }
      rows.jobs.push({ ...job, createdAt: handedOverAt, points: perJob, passed: perJob, failed: 0, openDefects: 0, handedOverAt })
      for (let gang = 1; gang <= perJob; gang++) {
        const failed = Math.random() < 0.03
        const removedAt = failed ? new Date(handedOverAt.getTime() + Math.random() * (Date.now() - handedOverAt.getTime())) : null
        const unit = { id: randomUUID(), ...base, jobId: job.id, siteId, boxId: randomUUID(), gang, place: 'Bench', model: chosen(kinds) }
        rows.units.push({
          ...unit,
          serial: randomUUID(),
          name: '',
          installedAt: handedOverAt,
          removedAt,
          removedTo: failed ? 'return' : null,
        })
        if (failed || Math.random() < 0.02)
          rows.callbacks.push({
            ...{
              id: randomUUID(),
              ...base,
              jobId: job.id,
              siteId,
              unitId: unit.id,
              what: 'dead',
              status: 'closed',
              danger: false,
              said: null,
            },
            ...{
              causeKind: failed ? 'device' : 'network',
              remedy: 'replace',
              causeId: null,
              cause: 'relay',
              payer: 'maker',
              callBackOn: null,
            },
            ...{ openedAt: removedAt ?? handedOverAt, closedAt: removedAt ?? handedOverAt },
          })
      }
    }
    for (const table of Object.keys(rows)) await models[table].bulkCreate(rows[table])
  }
  const { readInsight, readFailures, insightCsv } = await load('server/services/insight.ts')
  const timed = async (work) => {
    const times = []
    for (let round = 0; round < 7; round++) {
      const started = performance.now()
      await work()
      times.push(performance.now() - started)
    }
    return times.sort((a, b) => a - b)
  }
  const counted = (await timed(() => models.units.count({ where: { companyId: viewer.companyId, gang: 1 } })))[3]
  say(`Counting the rows of one table: ${counted.toFixed(0)} ms`)
  let missed = 0
  for (const [what, work] of [
    ['the page', () => readInsight(viewer, undefined)],
    ['the failures of a model', () => readFailures(viewer, undefined, kinds[0])],
    ['the table of models', () => insightCsv(viewer, undefined)],
  ]) {
    const times = await timed(work)
    const good = times[3] < 300
    if (!good) missed++
    say(
      `${good ? 'met   ' : 'MISSED'} ${what}: median ${times[3].toFixed(0)} ms, worst ${times[6].toFixed(0)} ms, ${(times[3] / counted).toFixed(1)} × the counting (wanted: under 300 ms)`,
    )
  }
  process.exitCode = missed ? 1 : 0
  await database.closeDatabase()
} finally {
  await stored.stop()
}
