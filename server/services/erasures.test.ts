import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { jest } from '@jest/globals'
import { QueryTypes, type Transaction } from 'sequelize'
import sharp from 'sharp'
import { erasedWord } from '../../core/erasure/words'
import { testFile } from '../../core/testing/scenario'
import { database } from '../database'
import { seedDemo } from '../database/demo/seed'
import { inAnyOrder, tablesHere, textIn } from '../database/tables-here'
import { homeWithDevice } from '../testing/one-device'
import { book } from '../testing/visits'
import { jobCommand, jobEnvelope, makeCompany, open, openWorld, refusedWith, siteCommand, uuid } from '../testing/world'
import { viewerOf } from './access'
import { setupCodeOf } from './codes'
import { execute } from './commands'
import { erasedBefore, listErasures, listIsKept } from './erasure-list'
import { eraseAgain, eraseCustomers, eraseDuePictures, erasedJobs, erasePicture, findErasable, keepFor, readErasures } from './erasures'
import { makeHomeLink, readHomePage } from './home-pages'
import { exportJob, jobHistory, jobPage } from './job-page'
import { listJobs, listSites } from './job-lists'
import { changeContact } from './messages'
import { readPhoto, storePhoto } from './photos'
import { rebuildProjections } from './rebuild'
import { forgetStates, readState } from './streams'

jest.setTimeout(180_000)
let close: () => Promise<void>
const folder = mkdtempSync(join(tmpdir(), 'circuitry-erasures-'))
beforeAll(async () => {
  close = await openWorld()
})
afterAll(async () => {
  await close()
  rmSync(folder, { recursive: true, force: true })
  delete process.env.CIRCUITRY_ERASURES
})

/** Every column of every table in which one of these texts stands. */
async function whereIs(words: string[]): Promise<string[]> {
  const found: string[] = []
  for (const { name, columns } of await tablesHere()) {
    const rows = await database().sequelize.query<Record<string, unknown>>(`SELECT * FROM \`${name}\``, { type: QueryTypes.SELECT })
    for (const { name: column } of columns)
      for (const word of words)
        if (rows.some((row) => (textIn(row[column]) ?? '').includes(JSON.stringify(word).slice(1, -1))))
          found.push(`${name}.${column}: ${word}`)
  }
  return found
}
const picture = () =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: '#888' } })
    .jpeg()
    .toBuffer()

/** A home of somebody whose name stands wherever it can, ready to be erased. */
async function theHome(word: string) {
  const { lead, add } = await makeCompany()
  const anna = await add('technician')
  const file = {
    ...testFile,
    job: { ...testFile.job, title: `Switches for ${word}` },
    customer: { name: `${word} Alder`, phone: '555 010 4477', email: `${word.toLowerCase()}@example.org` },
    site: { ...testFile.site, name: `House ${word}`, address: `4 ${word} Lane`, doorCode: '4711' },
  }
  const { jobId, siteId } = await open(lead, file)
  await book(lead, jobId, [anna.personId], [8, 10])
  const job = (await database().models.jobs.findByPk(jobId))!
  const boxId = Object.keys((await readState('site', siteId)).boxes)[0]!
  const { id: photoId } = await storePhoto(anna, job, await picture())
  for (const command of [
    { type: 'addPhoto' as const, photoId, boxId, kind: 'asFound' as const, caption: `the hall of ${word}` },
    { type: 'noteMember' as const, memberId: uuid(), name: `${word} junior`, is: 'invited' as const },
    // Called as a word of the program is: no entry may be spoilt by it.
    { type: 'noteMember' as const, memberId: uuid(), name: 'open', is: 'invited' as const },
    { type: 'noteMember' as const, memberId: uuid(), name: 'Found', is: 'accepted' as const },
    { type: 'listDefect' as const, defectId: uuid(), text: `${word} wants the plate changed`, pointId: null },
  ])
    expect(await jobCommand(anna, jobId, command)).toMatchObject({ status: 'accepted' })
  // Where nobody would look for it: a room called after somebody, a device, a report of danger.
  const { rooms, breakers } = await readState('site', siteId)
  const [roomId, breakerId] = [Object.keys(rooms)[0]!, Object.keys(breakers)[0]!]
  for (const command of [
    { type: 'recordRoom' as const, roomId, name: `${word}’s room` },
    {
      type: 'observeBreaker' as const,
      breakerId,
      state: 'open' as const,
      how: 'found' as const,
      note: `${word.toUpperCase()} ALDER fell, ring 555-010-4477`,
    },
  ])
    expect(await siteCommand(anna, siteId, command)).toMatchObject({ status: 'accepted' })
  // Refused, with the name in the sentence.
  const twice = { type: 'noteMember' as const, memberId: uuid(), name: `${word} junior`, is: 'invited' as const }
  expect(await jobCommand(anna, jobId, twice)).toMatchObject({ status: 'refused' })
  const { page } = await makeHomeLink(lead, jobId, { id: uuid(), months: 12, pin: '246810' })
  return { lead, add, anna, jobId, siteId, photoId, boxId, job, customerId: job.customerId, token: page.link.split('/').at(-1)!, file }
}
const cancelVisits = async (viewer: Awaited<ReturnType<typeof makeCompany>>['lead'], jobId: string) => {
  for (const { id, status } of Object.values((await readState('job', jobId)).visits))
    if (status === 'planned')
      expect(await jobCommand(viewer, jobId, { type: 'cancelVisit', visitId: id, reason: 'not wanted any more' })).toMatchObject({
        status: 'accepted',
      })
}

test('a customer is gone from every column of every table; what was done stays', async () => {
  const { lead, anna, jobId, siteId, photoId, customerId, token } = await theHome('Quillfeather')
  const words = ['Quillfeather', 'quillfeather', 'QUILLFEATHER', '555 010 4477', '555-010-4477', 'Quillfeather Lane']
  expect((await whereIs(words)).length).toBeGreaterThan(7)
  // While a visit is planned nothing goes.
  expect(await eraseCustomers(lead, { customerIds: [customerId] })).toEqual({
    erased: [],
    left: [{ customerId, name: 'Quillfeather Alder', inTheWay: [expect.stringContaining('A visit is planned')] }],
  })
  expect((await database().models.customers.findByPk(customerId))!.name).toBe('Quillfeather Alder')
  await cancelVisits(lead, jobId)
  const before = { job: await readState('job', jobId), site: await readState('site', siteId) }
  const since = new Date()
  expect(await eraseCustomers(lead, { customerIds: [customerId] })).toEqual({ erased: [customerId], left: [] })
  expect(await whereIs(words)).toEqual([])
  expect(await database().models.photos.count({ where: { jobId } })).toBe(0)
  const after = { job: await readState('job', jobId), site: await readState('site', siteId) }
  expect(after.job.seq).toBe(before.job.seq)
  const unnamed = (text: string) =>
    text
      .replaceAll('Quillfeather', erasedWord)
      .replaceAll('QUILLFEATHER ALDER fell, ring 555-010-4477', `${erasedWord} fell, ring ${erasedWord}`)
  expect(after.site).toEqual(JSON.parse(unnamed(JSON.stringify(before.site))))
  expect(Object.keys(after.job.points)).toEqual(Object.keys(before.job.points))
  expect(after.job.photos).toEqual([expect.objectContaining({ id: photoId, erased: true, caption: erasedWord })])
  // Folded from nothing, as another server would.
  forgetStates()
  expect(await readState('job', jobId)).toEqual(after.job)
  expect(JSON.stringify(await jobHistory(lead, jobId))).not.toContain('Quillfeather')
  expect(JSON.stringify(await exportJob(lead, jobId))).not.toContain('Quillfeather')
  expect(await jobPage(lead, jobId)).toMatchObject({
    customer: { name: erasedWord },
    site: { name: erasedWord, hasDoorCode: false },
    erasedAt: expect.any(String),
  })
  expect(await refusedWith(readHomePage(token))).toEqual([404, 'noHome'])
  expect(await refusedWith(readPhoto(lead, photoId, true))).toEqual([404, 'notFound'])
  expect((await listSites(lead)).some(({ id }) => id === siteId)).toBe(false)
  expect((await listJobs(lead, { search: 'Quillfeather' })).length).toBe(0)
  // Devices hear of it, and so does whoever was away.
  expect((await erasedJobs(anna, since)).jobIds).toEqual([jobId])
  expect((await erasedJobs(anna, new Date(Date.now() + 1000))).jobIds).toEqual([])
  const [told] = await database().models.feedEntries.findAll({ where: { topic: 'erased', streamId: jobId }, raw: true })
  expect(told).toBeDefined()
  // Asked again: it is done.
  expect(await eraseCustomers(lead, { customerIds: [customerId] })).toEqual({ erased: [customerId], left: [] })
  expect((await readErasures(lead)).erased).toMatchObject([{ kind: 'customer', who: lead.name, jobs: [{ id: jobId }] }])
})

test('nothing is added to it any more, whatever waited on a phone', async () => {
  const { lead, anna, jobId, job, siteId, photoId, customerId, boxId, file } = await theHome('Brindle')
  await cancelVisits(lead, jobId)
  const visitId = Object.keys((await readState('job', jobId)).visits)[0]!
  await eraseCustomers(lead, { customerIds: [customerId] })
  const late = { type: 'listDefect' as const, defectId: uuid(), text: 'Brindle telephoned', pointId: null }
  expect(await refusedWith(execute(jobEnvelope(jobId, late), anna))).toEqual([409, 'erased'])
  expect(await refusedWith(storePhoto(anna, job, await picture()))).toEqual([409, 'erased'])
  expect(await refusedWith(storePhoto(anna, job, await picture(), photoId))).toEqual([409, 'erased'])
  expect(await refusedWith(makeHomeLink(lead, jobId, { id: uuid(), months: 12, pin: null }))).toEqual([409, 'erased'])
  expect(await refusedWith(changeContact(lead, visitId, { phone: '555 010 1111', email: '' }))).toEqual([409, 'erased'])
  expect(await refusedWith(open(lead, file, siteId))).toEqual([409, 'erased'])
  expect(await whereIs(['Brindle', '555 010 1111'])).toEqual([])
  // What is seen of the power is a fact, there as anywhere.
  expect(await siteCommand(anna, siteId, { type: 'observeLive', boxId, what: 'lightOn' })).toMatchObject({ status: 'accepted' })
  // The same people come back: they are new.
  const again = await open(lead, file)
  expect((await jobPage(lead, again.jobId)).customer.name).toBe('Brindle Alder')
})

test('a home that somebody else has had work done in stays theirs', async () => {
  const { lead, jobId, siteId, customerId, file } = await theHome('Fennick')
  await cancelVisits(lead, jobId)
  const other = uuid()
  const { models } = database()
  await models.customers.create({ id: other, companyId: lead.companyId, name: 'Hollis Reeve', phone: '', email: '', erasedAt: null })
  const second = await open(lead, { ...file, job: { ...file.job, title: 'The attic' } }, siteId)
  await models.jobs.update({ customerId: other }, { where: { id: second.jobId } })
  expect((await findErasable(lead, 'Fennick Alder')).customers).toMatchObject([{ customerId, homes: [], jobs: 1, pictures: 1 }])
  await eraseCustomers(lead, { customerIds: [customerId] })
  expect(await jobPage(lead, second.jobId)).toMatchObject({ erasedAt: null, site: { name: 'House Fennick' } })
  expect(await jobPage(lead, jobId)).toMatchObject({ erasedAt: expect.any(String), customer: { name: erasedWord } })
  // A third job there is not put under the name of nobody.
  const third = await open(lead, { ...file, customer: { ...file.customer, name: 'Hollis Reeve' } }, siteId)
  expect((await jobPage(lead, third.jobId)).customer.name).toBe('Hollis Reeve')
})

test('one picture goes by itself, with what was said of it', async () => {
  const { lead, add, jobId, job, photoId, anna } = await theHome('Tansy')
  const stays = (await storePhoto(anna, job, await picture())).id
  expect(await refusedWith(erasePicture({ ...lead, companyId: uuid() }, photoId))).toEqual([404, 'notFound'])
  expect(await erasePicture(lead, photoId)).toEqual({ ok: true })
  expect(await erasePicture(lead, photoId)).toEqual({ ok: true })
  expect(await whereIs(['the hall of Tansy'])).toEqual([])
  expect((await readState('job', jobId)).photos).toMatchObject([{ id: photoId, erased: true }])
  expect((await readPhoto(lead, stays, false)).mime).toBe('image/jpeg')
  expect(await refusedWith(storePhoto(anna, job, await picture(), photoId))).toEqual([409, 'erased'])
  // The job itself goes on.
  expect(
    await jobCommand(await add('lead'), jobId, { type: 'listDefect', defectId: uuid(), text: 'a scratch', pointId: null }),
  ).toMatchObject({ status: 'accepted' })
  expect((await erasedJobs(anna, new Date(Date.now() - 60_000))).jobIds).toEqual([jobId])
})

test('what is due waits for a lead, and is counted by what was last done', async () => {
  const { lead, jobId, customerId, photoId } = await theHome('Sorrel')
  const { models } = database()
  const threeYears = new Date(Date.now() - 3.1 * 365.25 * 86_400_000)
  expect((await readErasures(lead)).due).toEqual({ customers: [], moreCustomers: false, pictures: 0 })
  expect(await refusedWith(eraseDuePictures(lead))).toEqual([409, 'keptForGood'])
  await keepFor(lead, { customersYears: 3, picturesYears: 3 })
  expect((await readErasures(lead)).due.customers).toEqual([])
  await models.photos.update({ uploadedAt: threeYears }, { where: { id: photoId } })
  await models.jobs.update({ createdAt: threeYears }, { where: { id: jobId } })
  // A visit of today holds both it and its customer.
  expect((await readErasures(lead)).due).toMatchObject({ customers: [], pictures: 1 })
  await models.visits.update({ endsAt: threeYears }, { where: { jobId } })
  expect((await readErasures(lead)).due.customers).toMatchObject([{ customerId, jobs: 1, inTheWay: [expect.stringContaining('visit')] }])
  expect(await eraseDuePictures(lead)).toEqual({ erased: 1, left: 0 })
  expect(await readErasures(lead)).toMatchObject({
    keep: { customersYears: 3, picturesYears: 3 },
    due: { pictures: 0 },
    erased: [{ kind: 'picture', count: 1, jobs: [{ id: jobId }] }],
  })
  const [line] = await models.accessRecord.findAll({
    where: { companyId: lead.companyId, deed: 'erased' },
    order: [['id', 'ASC']],
    raw: true,
  })
  expect(line).toMatchObject({ what: 'how long is kept' })
})

test('of another company nobody is erased or found', async () => {
  const { customerId, photoId } = await theHome('Marrow')
  const { lead } = await makeCompany()
  expect(await refusedWith(eraseCustomers(lead, { customerIds: [customerId] }))).toEqual([404, 'notFound'])
  expect(await refusedWith(erasePicture(lead, photoId))).toEqual([404, 'notFound'])
  expect((await findErasable(lead, 'Marrow')).customers).toEqual([])
  // What somebody types counts as it is.
  expect((await findErasable(lead, '%')).customers).toEqual([])
})

test('the list outside brings erasing back where a backup of before was put back', async () => {
  process.env.CIRCUITRY_ERASURES = join(folder, 'erasures.jsonl')
  const { lead, jobId, customerId, photoId, siteId } = await theHome('Gorse')
  const { code: _, ...device } = await homeWithDevice()
  await cancelVisits(lead, jobId)
  const { models, sequelize } = database()
  const kept: Record<string, Record<string, unknown>[]> = {}
  for (const name of ['customers', 'sites', 'jobs', 'streams', 'events', 'photos', 'home_pages', 'commands'])
    kept[name] = await sequelize.query(`SELECT * FROM ${name}`, { type: QueryTypes.SELECT })
  await eraseCustomers(lead, { customerIds: [customerId] })
  expect(await whereIs(['Gorse'])).toEqual([])
  const text = readFileSync(process.env.CIRCUITRY_ERASURES, 'utf8')
  expect(text).toContain(customerId)
  expect(text).not.toContain('Gorse')
  expect(await listIsKept()).toBe(true)
  // As a backup of before: all rows as they were, and the table knows of no erasing.
  const putBack = (transaction: Transaction) =>
    Promise.all(
      Object.entries(kept).map(async ([name, rows]) => {
        const columns = Object.keys(rows[0]!)
        for (const row of rows)
          await sequelize.query(
            `REPLACE INTO ${name} (${columns.map((one) => `\`${one}\``).join()}) VALUES (${columns.map(() => '?').join()})`,
            {
              replacements: columns.map((one) => row[one] as never),
              transaction,
            },
          )
      }),
    )
  await inAnyOrder(putBack)
  await models.erasures.destroy({ where: { refId: customerId } })
  forgetStates()
  expect((await whereIs(['Gorse'])).length).toBeGreaterThan(5)
  // A line that was cut off, and one of something that is not here.
  writeFileSync(
    process.env.CIRCUITRY_ERASURES,
    `${text}{"id":"${uuid()}","companyId":"${lead.companyId}","kind":"customer","refId":"${uuid()}","jobId":null,"personId":"${lead.personId}","at":"2026-01-01T00:00:00.000Z"}\n{"id":"`,
  )
  const back = await erasedBefore()
  expect(back.map(({ refId }) => refId)).toContain(customerId)
  expect(await eraseAgain(back)).toBe(1)
  expect(await whereIs(['Gorse'])).toEqual([])
  expect(await eraseAgain(await erasedBefore())).toBe(0)
  expect(await models.photos.findByPk(photoId)).toBeNull()
  // When and by whom is as it was.
  expect(await models.erasures.findOne({ where: { refId: customerId }, raw: true })).toMatchObject({
    personId: lead.personId,
    id: JSON.parse(text.trim().split('\n').at(-1)!).id,
  })
  expect((await readState('site', siteId)).seq).toBeGreaterThan(0)
  // Another is not touched by it.
  expect((await setupCodeOf(device.lead, device.jobId, Object.keys((await readState('job', device.jobId)).units)[0]!)).code).toBeTruthy()
  await listErasures()
  process.env.CIRCUITRY_ERASURES = join(folder, 'nowhere', 'erasures.jsonl')
  await listErasures()
  expect(await listIsKept()).toBe(false)
  delete process.env.CIRCUITRY_ERASURES
})

test('the demo company, all of its customers: nothing is left of any, and all rows follow from what is left', async () => {
  await close()
  close = await openWorld()
  await seedDemo(new Date(), { years: false })
  const { models, sequelize } = database()
  const company = (await models.companies.findOne({ raw: true }))!
  const lead = await viewerOf((await models.people.findOne({ where: { companyId: company.id, role: 'lead' } }))!)
  const customers = await models.customers.findAll({ where: { companyId: company.id }, raw: true })
  const sites = await models.sites.findAll({ where: { companyId: company.id }, raw: true })
  const told = [...customers.flatMap(({ name, phone, email }) => [name, phone, email]), ...sites.map(({ address }) => address)].filter(
    (word) => word.length > 5,
  )
  const left = await eraseAgain(
    customers.map(({ id }) => ({
      id: uuid(),
      companyId: company.id,
      kind: 'customer' as const,
      refId: id,
      jobId: null,
      personId: lead.personId,
      at: new Date(),
    })),
  )
  expect(left).toBe(customers.length)
  expect(await whereIs([...new Set(told)])).toEqual([])
  const projected = [
    'visits',
    'units',
    'callbacks',
    'hanging_tags',
    'home_finds',
    'devices_out',
    'pairings',
    'prepared_units',
    'part_needs',
    'stock_moves',
  ]
  const rowsNow = async () =>
    Promise.all(
      projected.map(async (name) =>
        JSON.stringify(
          (await sequelize.query(`SELECT * FROM ${name}`, { type: QueryTypes.SELECT })).map((row) => JSON.stringify(row)).sort(),
        ),
      ),
    )
  const before = await rowsNow()
  await rebuildProjections()
  expect(await rowsNow()).toEqual(before)
})
