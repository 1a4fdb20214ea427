import { readFileSync } from 'node:fs'
import { jest } from '@jest/globals'
import { unzipSync, strFromU8 } from 'fflate'
import { readJobFile, readSurveyTables, surveyTables } from '../../core/format'
import { testFile } from '../../core/testing/scenario'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, siteCommand, uuid } from '../testing/world'
import { executeSeveral } from './commands'
import type { ApiError } from './errors'
import { checkIntake, openJob } from './intake'
import { jobPage } from './job-page'
import { readState } from './streams'
import { surveyArchive, surveyFile, surveyPaper } from './survey-out'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const text = readFileSync('samples/gate-house.json', 'utf8')
const sample = ((reading) => (reading.ok ? reading.value : null)!)(readJobFile(text))
const envelope = (stream: 'site' | 'job', streamId: string, command: object) => ({
  ...{ id: uuid(), stream, streamId, at: new Date().toISOString(), basedOnSeq: 0, jobSeq: null, heldMs: 5000, command },
})

describe('a survey that goes out and comes in', () => {
  test('as a file: what was seen is on record with the job, and goes out as it came', async () => {
    const { lead } = await makeCompany()
    const ids = await openJob({ source: { kind: 'json', text }, branchId: lead.branchId, siteId: null, newHome: false }, lead)
    const site = await readState('site', ids.siteId)
    expect(Object.values(site.networks)).toMatchObject([{ name: 'gatehouse', bound: ['plug in the hall'] }])
    expect(Object.values(site.surveys).filter(({ looked }) => looked === 'inside')).toHaveLength(2)
    const { file } = await surveyFile(lead, ids.jobId)
    // The door code stays behind.
    expect(file).toEqual({ ...sample, site: { ...sample.site, doorCode: '' } })
    const archive = await surveyArchive(lead, ids.jobId)
    const tables = Object.entries(unzipSync(archive.bytes)).map(([name, bytes]) => ({ name, text: strFromU8(bytes) }))
    expect(tables.map(({ name }) => name).sort()).toEqual(
      Object.keys(surveyTables(file))
        .map((name) => `${name}.csv`)
        .sort(),
    )
    const { job, customer } = sample
    const head = { job, customer, site: { ...sample.site, doorCode: '' } }
    expect(readSurveyTables(tables, head)).toMatchObject({ ok: true })
    const again = await openJob(
      { source: { kind: 'tables', tables, head: head as never }, branchId: lead.branchId, siteId: null, newHome: true },
      lead,
    )
    expect((await surveyFile(lead, again.jobId)).file.boxes).toEqual(file.boxes)
  })
  test('as a paper, also where nothing was looked at; another company gets none of them', async () => {
    const { lead } = await makeCompany()
    const { lead: stranger } = await makeCompany()
    const plain = await open(lead)
    const full = await openJob({ source: { kind: 'json', text }, branchId: lead.branchId, siteId: null, newHome: true }, lead)
    for (const { jobId } of [plain, full]) expect((await surveyPaper(lead, jobId)).bytes.subarray(0, 5).toString()).toBe('%PDF-')
    for (const way of [surveyFile, surveyArchive, surveyPaper])
      await expect(way(stranger, full.jobId)).rejects.toMatchObject({ status: 404 })
  })
  test('broken tables are said by table and line, in the words of the branch, and nothing is stored', async () => {
    const { lead } = await makeCompany()
    const before = await database().models.jobs.count()
    const tables = [{ name: 'boxes.csv', text: surveyTables(sample).boxes.replace('panel / 4', 'panel / 44') }]
    const head = { job: sample.job, customer: sample.customer, site: sample.site }
    const said = await checkIntake({ kind: 'tables', tables, head }, 'iec230').catch((error: ApiError) => error)
    expect(said).toMatchObject({ status: 422, code: 'fileBroken' })
    expect((said as ApiError).details).toContainEqual({ where: 'boxes.csv, line 3', problem: 'There is no MCB “panel / 44”.' })
    await expect(
      openJob({ source: { kind: 'tables', tables, head }, branchId: lead.branchId, siteId: null, newHome: true }, lead),
    ).rejects.toMatchObject({ status: 422 })
    expect(await database().models.jobs.count()).toBe(before)
  })
})

describe('several commands in one request', () => {
  test('are answered in their order; one that is none, or nobody’s, spoils no other', async () => {
    const { lead } = await makeCompany()
    const { siteId } = await open(lead)
    const roomId = uuid()
    const given = [
      envelope('site', siteId, { type: 'recordRoom', roomId, name: 'Attic' }),
      { nonsense: true },
      envelope('site', uuid(), { type: 'recordRoom', roomId: uuid(), name: 'Elsewhere' }),
      envelope('site', siteId, { type: 'recordRoom', roomId: uuid(), name: 'attic' }),
      envelope('site', siteId, { type: 'noSuchThing' }),
      envelope('site', siteId, { type: 'recordRoom', roomId: uuid(), name: 'Loft' }),
    ]
    const answers = await executeSeveral(given, lead)
    expect(answers).toMatchObject([
      { outcome: { status: 'accepted' } },
      { problem: { status: 400 } },
      { problem: { status: 404 } },
      { outcome: { status: 'refused', refusal: { code: 'nameTaken' } } },
      { problem: { status: 400 } },
      { outcome: { status: 'accepted' } },
    ])
    // Sent again after a lost answer: the same answers, and nothing twice.
    expect(await executeSeveral(given, lead)).toEqual(answers)
    expect((await readState('site', siteId)).roomOrder).toHaveLength(3)
  })
})

describe('homes wired alike', () => {
  const inspect = async (lead: Awaited<ReturnType<typeof makeCompany>>['lead'], siteId: string, neutral: string) => {
    const { boxOrder } = await readState('site', siteId)
    for (const boxId of boxOrder.slice(0, 2))
      expect(await siteCommand(lead, siteId, { type: 'noteBox', boxId, noted: { looked: 'inside', neutral } } as never)).toMatchObject({
        status: 'accepted',
      })
  }
  test('of one builder count first, else those of one street; of another company none', async () => {
    const { lead } = await makeCompany()
    const other = await makeCompany()
    const opened = async (who: typeof lead, address: string) =>
      openJob(
        {
          source: { kind: 'json', text: JSON.stringify({ ...testFile, site: { ...testFile.site, address } }) },
          ...{ branchId: who.branchId, siteId: null, newHome: true },
        },
        who,
      )
    const [here, near, far] = [await opened(lead, '1 Withy Bank'), await opened(lead, '7a Withy Bank'), await opened(lead, '3 Quay')]
    const foreign = await opened(other.lead, '2 Withy Bank')
    await inspect(other.lead, foreign.siteId, 'here')
    const alike = async () => (await jobPage(lead, here.jobId)).site.alike
    expect(await alike()).toBe(null)
    await inspect(lead, near.siteId, 'none')
    expect(await alike()).toEqual({ by: 'street', homes: 1, neutrals: 0, opened: 2 })
    await inspect(lead, far.siteId, 'here')
    for (const { siteId } of [here, far])
      await siteCommand(lead, siteId, { type: 'describeHome', builder: siteId === here.siteId ? 'Harbour Homes' : 'harbour homes' })
    expect(await alike()).toEqual({ by: 'builder', homes: 1, neutrals: 2, opened: 2 })
  })
})

test('boxes are not put together while another open job of the home works at one of them', async () => {
  const { lead } = await makeCompany()
  const first = await open(lead)
  const second = await openJob(
    {
      source: {
        kind: 'json',
        text: JSON.stringify({ ...testFile, boxes: testFile.boxes.slice(0, 1), points: testFile.points.slice(0, 1) }),
      },
      branchId: lead.branchId,
      siteId: first.siteId,
      newHome: false,
    },
    lead,
  )
  const { boxes } = await readState('site', first.siteId)
  const id = (name: string) => Object.values(boxes).find((box) => box.name === name)!.id
  const merge = (from: string) =>
    jobCommand(lead, first.jobId, { type: 'mergeBoxes', intoId: id('stair'), fromId: id(from), reason: 'one box' })
  expect(await merge('door')).toMatchObject({
    status: 'refused',
    refusal: { code: 'boxInUse', reasons: [expect.stringMatching(/1 other open job/)] },
  })
  expect(await merge('attic')).toMatchObject({ status: 'accepted' })
  expect((await readState('job', second.jobId)).boxIds).toEqual([id('door')])
  expect((await readState('site', first.siteId)).boxes[id('stair')]).toMatchObject({ gangs: 3, unknownFeed: true })
})
