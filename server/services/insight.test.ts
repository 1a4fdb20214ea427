import { jest } from '@jest/globals'
import { database } from '../database'
import { testModel } from '../../core/testing/scenario'
import { homeWithDevice } from '../testing/one-device'
import { makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import type { Viewer } from './access'
import { insightCsv, readFailures, readInsight, readOwnInsight, readSoak } from './insight'

jest.setTimeout(180_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const day = 86_400_000
const now = new Date('2026-11-20T12:00:00Z')
const ago = (days: number) => new Date(now.getTime() - days * day)

/** Rows as the records of jobs leave them: so many devices of a model, some of which came out after so many days. */
async function installed(
  lead: Viewer,
  jobId: string,
  siteId: string,
  model: string,
  count: number,
  failedAfter: number[],
  kind = 'device',
) {
  const { models } = database()
  const base = { companyId: lead.companyId, branchId: lead.branchId, jobId, siteId }
  const rows = Array.from({ length: count }, (_, index) => {
    const after = failedAfter[index]
    return {
      ...base,
      ...{ id: uuid(), boxId: uuid(), gang: 1, place: 'Hall, door', model, name: '', serial: uuid(), installedAt: ago(400) },
      ...(after === undefined ? { removedAt: null, removedTo: null } : { removedAt: ago(400 - after), removedTo: 'return' }),
    }
  })
  await models.units.bulkCreate(rows)
  await models.callbacks.bulkCreate(
    rows.slice(0, failedAfter.length).map((unit, index) => ({
      ...base,
      ...{
        id: uuid(),
        unitId: unit.id,
        what: 'dead',
        status: 'closed',
        causeKind: kind,
        remedy: 'replace',
        causeId: null,
        cause: 'relay stuck',
      },
      ...{ openedAt: ago(400 - failedAfter[index]!), closedAt: now, payer: 'maker', callBackOn: null, danger: false, said: null },
    })),
  )
}

test('models by what became of them, each number with the jobs behind it; other companies and branches have no part in it', async () => {
  const { lead } = await makeCompany()
  const { jobId, siteId } = await open(lead)
  expect(await readInsight(lead, undefined, now)).toMatchObject({ models: [], firstTime: { jobs: 0 }, causes: [], risenSince: null })
  await installed(lead, jobId, siteId, 'Maker good', 300, [100, 200])
  await installed(lead, jobId, siteId, 'Maker bad', 80, [0, 1, 10, 40, 60, 90, 120, 200, 300, 20, 30, 35])
  // Came out for another reason: seen until then, and no failure.
  await installed(lead, jobId, siteId, 'Maker other', 50, [5, 5, 5], 'use')
  const rival = await makeCompany()
  const theirs = await open(rival.lead)
  await installed(
    rival.lead,
    theirs.jobId,
    theirs.siteId,
    'Maker good',
    40,
    Array.from({ length: 40 }, () => 1),
  )

  const { models, causes } = await readInsight(lead, undefined, now)
  expect(models.map(({ model }) => model)[0]).toBe('Maker bad')
  const of = (model: string) => models.find((one) => one.model === model)!
  expect(of('Maker bad')).toMatchObject({ inWall: 68, failed: 12, first: 2, early: 4, beyond: 'more', advice: { what: 'stopBuying' } })
  expect(of('Maker good')).toMatchObject({ inWall: 298, failed: 2, beyond: null, advice: null })
  expect(of('Maker good').afterYear!.survival).toBeCloseTo(298 / 300, 10)
  expect(of('Maker other')).toMatchObject({ inWall: 47, failed: 0 })
  expect(causes).toEqual([
    { kind: 'device', count: 14 },
    { kind: 'use', count: 3 },
  ])
  const { failures, more } = await readFailures(lead, undefined, 'Maker bad', now)
  expect([failures.length, more]).toEqual([12, 0])
  expect(failures[0]).toMatchObject({ jobId, days: 300, cause: 'relay stuck', place: 'Hall, door' })
  expect(failures.map(({ days }) => days)).toEqual([300, 200, 120, 90, 60, 40, 35, 30, 20, 10, 1, 0])
  expect((await readFailures(lead, undefined, "x' OR '1'='1", now)).failures).toEqual([])
  const csv = (await insightCsv(lead, lead.branchId, now)).split(/\r?\n/)
  expect(csv[0]).toMatch(/^"?model"?,"?in_wall"?/)
  expect(csv[1]).toMatch(/^"?Maker bad"?,68,/)
  expect(await refusedWith(readInsight(lead, uuid(), now))).toEqual([404, 'notFound'])
  expect(await refusedWith(readInsight(rival.lead, lead.branchId, now))).toEqual([404, 'notFound'])
})

test('the first time right: homes that were handed over long enough ago, and heard nothing of for a month', async () => {
  const { lead } = await makeCompany()
  const { models } = database()
  const handed = async (days: number, callbackAfter?: number) => {
    const { jobId, siteId } = await open(lead)
    await models.jobs.update({ handedOverAt: ago(days) }, { where: { id: jobId } })
    if (callbackAfter === undefined) return
    const base = { companyId: lead.companyId, branchId: lead.branchId, jobId, siteId, unitId: uuid() }
    await models.callbacks.create({
      ...base,
      ...{ id: uuid(), what: 'dead', status: 'told', causeKind: null, remedy: null, causeId: 'routerChanged', cause: '', payer: null },
      ...{ openedAt: ago(days - callbackAfter), closedAt: null, callBackOn: null, danger: false, said: null },
    })
  }
  await handed(100)
  await handed(100, 10)
  await handed(100, 60)
  // Too young to be judged.
  await handed(5)
  await handed(5, 1)
  const { firstTime, months, causes } = await readInsight(lead, undefined, now)
  expect(firstTime).toMatchObject({ jobs: 3, quiet: 2 })
  // Mended on the telephone: its kind follows from its cause.
  expect(causes).toEqual([{ kind: 'network', count: 3 }])
  expect(firstTime.share.low).toBeLessThan(0.5)
  expect(months).toHaveLength(24)
  expect(months.at(-1)).toMatchObject({ month: '2026-11', handedOver: 2, callbacks: 1 })
  expect(months.reduce((sum, { callbacks }) => sum + callbacks, 0)).toBe(3)
})

test('homes by their age, and one’s own from thirty visits on: two bad days brand nobody, and nobody sees another’s', async () => {
  const { lead, add } = await makeCompany()
  const [anna, bo] = [await add('technician'), await add('technician')]
  const { models } = database()
  const { jobId, siteId } = await open(lead)
  const base = { companyId: lead.companyId, branchId: lead.branchId }
  const [job, site] = [(await models.jobs.findByPk(jobId, { raw: true }))!, (await models.sites.findByPk(siteId, { raw: true }))!]
  let number = 5000
  /** Homes of one age with a finished installation each; the first `bad` of them were called about within the month. */
  async function worked(by: Viewer, yearBuilt: number | null, count: number, bad: number) {
    const rows = Array.from({ length: count }, () => ({ siteId: uuid(), jobId: uuid(), visitId: uuid() }))
    await models.sites.bulkCreate(rows.map((row) => ({ ...site, id: row.siteId, yearBuilt })))
    await models.jobs.bulkCreate(
      rows.map((row) => ({ ...job, id: row.jobId, siteId: row.siteId, number: ++number, handedOverAt: ago(100) })),
    )
    const times = { startsAt: ago(100), endsAt: ago(100), windowFrom: ago(100), windowTo: ago(100) }
    const open = { callbackId: null, setOffAt: null, expectedAt: null, arrivedAt: null, finishedAt: ago(100) }
    await models.visits.bulkCreate(
      rows.map(({ visitId: id, ...row }) => ({ ...base, ...row, ...times, ...open, id, kind: 'install', status: 'done' })),
    )
    await models.visitPeople.bulkCreate(rows.map(({ visitId }) => ({ visitId, personId: by.personId, position: 0 })))
    await models.callbacks.bulkCreate(
      rows.slice(0, bad).map((row) => ({
        ...{ ...base, jobId: row.jobId, siteId: row.siteId, unitId: uuid(), id: uuid(), what: 'dead', status: 'open', causeKind: null },
        ...{
          remedy: null,
          causeId: null,
          cause: '',
          payer: null,
          openedAt: ago(95),
          closedAt: null,
          callBackOn: null,
          danger: false,
          said: null,
        },
      })),
    )
  }
  await worked(anna, 1930, 20, 2)
  await worked(bo, 1990, 150, 3)
  // Two of twenty, but of twenty visits nothing is said at all.
  expect(await readOwnInsight(anna, now)).toEqual({ visits: 20, needed: 30, days: 30, homes: null })
  await worked(anna, null, 20, 18)
  const own = await readOwnInsight(anna, now)
  expect(own).toMatchObject({ visits: 40, homes: { jobs: 40, quiet: 20, beyond: 'more', share: { rate: 0.5 } } })
  expect(own.homes!.company).toBeCloseTo(167 / 190, 10)
  expect((await readOwnInsight(bo, now)).homes).toMatchObject({ jobs: 150, quiet: 147, beyond: 'fewer' })
  expect((await readOwnInsight((await makeCompany()).lead, now)).visits).toBe(0)
  const { ages, firstTime } = await readInsight(lead, undefined, now)
  expect(firstTime).toMatchObject({ jobs: 190, quiet: 167 })
  // Two of twenty are what chance makes of 12 in a hundred (Poisson with 2.4); 18 of 20 are not, nor are 3 of 150.
  expect(ages.map(({ age, jobs, quiet, beyond }) => [age, jobs, quiet, beyond])).toEqual([
    ['before 1950', 20, 18, null],
    ['1980 to 1999', 150, 147, 'fewer'],
    ['not known', 20, 2, 'more'],
  ])
})

test('what fails in its first days is watched in the jobs that have it, and in no other', async () => {
  const { lead, anna, jobId } = await homeWithDevice()
  expect(await readSoak(anna, jobId, now)).toEqual({ models: [] })
  const other = await open(lead)
  const model = `${testModel.maker} ${testModel.name}`
  await installed(lead, other.jobId, other.siteId, model, 60, [0, 0, 1, 1, 0])
  await installed(lead, other.jobId, other.siteId, 'Maker plain', 400, [200])
  expect(await readSoak(anna, jobId, now)).toMatchObject({ models: [{ model, failed: 5, of: 61 }] })
  expect(await readSoak(lead, other.jobId, now)).toEqual({ models: [] })
  expect(await refusedWith(readSoak((await makeCompany()).lead, jobId))).toEqual([404, 'notFound'])
})
