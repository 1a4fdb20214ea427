import { jest } from '@jest/globals'
import { ConnectionError, QueryTypes } from 'sequelize'
import type { Outcome } from '../../core/stream'
import { database } from '../database'
import { troubleOf } from '../database/transact'
import { jobCommand, jobEnvelope, makeCompany, open, openWorld, siteCommand, uuid } from '../testing/world'
import { readAsked } from './commands'
import { submit } from './company-writer'
import { ApiError } from './errors'
import { feedAfter, feedSeq } from './feed'
import { eventsAfter, forgetStates, readState } from './streams'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())
afterEach(() => jest.restoreAllMocks())

const defect = (text: string) => ({ type: 'listDefect' as const, defectId: uuid(), pointId: null, text })
/** Somebody else is being written: what is given now waits and goes together. */
async function busy<T>(lead: Parameters<typeof jobCommand>[0], jobId: string, work: () => T): Promise<Awaited<T>> {
  const first = jobCommand(lead, jobId, defect('the first of all'))
  await new Promise((resolve) => setTimeout(resolve, 3))
  const result = await work()
  await first
  return result
}
/** The database refuses to write some groups. `when`: the outcomes it is about to store. */
function failing(when: (outcomes: string[]) => Error | null): void {
  const { sequelize } = database()
  const query = sequelize.query.bind(sequelize) as (sql: unknown, options?: unknown) => Promise<unknown>
  jest.spyOn(sequelize, 'query').mockImplementation(((sql: unknown, options?: { replacements?: unknown[] }) => {
    const outcomes = String(sql).startsWith('BEGIN NOT ATOMIC')
      ? (options?.replacements ?? []).filter((value): value is string => typeof value === 'string' && value.startsWith('{"status"'))
      : []
    const error = outcomes.length > 0 ? when(outcomes) : null
    return error ? Promise.reject(error) : query(sql, options)
  }) as never)
}
const settled = (work: Promise<Outcome>[]) =>
  Promise.all(
    work.map((one) =>
      one.then(
        ({ status }) => status,
        (error: unknown) => (error instanceof ApiError ? error.code : String(error)),
      ),
    ),
  )
const sameSeqs = async (streamId: string) => {
  const seqs = (await eventsAfter(streamId, 0)).map(({ seq }) => seq)
  expect(seqs).toEqual(seqs.map((_, index) => index + 1))
}

test('commands that wait are stored together, and each is answered for itself', async () => {
  const { lead } = await makeCompany()
  const { siteId, jobId } = await open(lead)
  const twice = defect('sent twice at once')
  await jobCommand(lead, jobId, defect('before'))
  const start = await feedSeq(lead.companyId)
  const id = uuid()
  const boxId = Object.keys((await readState('site', siteId)).boxes)[0]!
  const answers = await busy(lead, jobId, () =>
    settled([
      ...Array.from({ length: 10 }, (_, index) => jobCommand(lead, jobId, defect(`number ${index}`))),
      jobCommand(lead, jobId, twice, id),
      jobCommand(lead, jobId, twice, id),
      jobCommand(lead, jobId, { type: 'settleDefect', defectId: uuid(), how: 'there is none' }),
      siteCommand(lead, siteId, { type: 'openBox', boxId }),
    ]),
  )
  expect(answers).toEqual([...Array(10).fill('accepted'), 'accepted', 'accepted', 'refused', 'accepted'])
  expect((await eventsAfter(jobId, 1)).length).toBe(1 + 1 + 10 + 1)
  await sameSeqs(jobId)
  await sameSeqs(siteId)
  const feed = await feedAfter(lead.companyId, start, 100)
  expect(feed.length).toBeLessThan(12)
  expect(feed.map(({ seq }) => seq)).toEqual(feed.map((_, index) => start + 1 + index))
  const [cached, page] = [await readState('job', jobId), await readState('site', siteId)]
  forgetStates()
  expect(await readState('job', jobId)).toEqual(cached)
  expect(await readState('site', siteId)).toEqual(page)
})

test('what ends a group ends it for nobody: each is asked again by itself', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  failing((outcomes) => (outcomes.length > 1 ? new Error('The disk hiccuped.') : null))
  const answers = await busy(lead, jobId, () =>
    settled(Array.from({ length: 12 }, (_, index) => jobCommand(lead, jobId, defect(`number ${index}`)))),
  )
  expect(answers).toEqual(Array(12).fill('accepted'))
  expect(Object.keys((await readState('job', jobId)).defects)).toHaveLength(13)
  await sameSeqs(jobId)
})

test('a deadlock is tried again; what fails every time is said to its sender alone', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  let times = 0
  const deadlock = Object.assign(new Error('Deadlock found'), { parent: { code: 'ER_LOCK_DEADLOCK' } })
  failing(() => (++times === 1 ? deadlock : null))
  expect(await settled([jobCommand(lead, jobId, defect('after a deadlock'))])).toEqual(['accepted'])
  expect(times).toBe(2)
  jest.restoreAllMocks()
  failing((outcomes) => (outcomes.some((outcome) => outcome.includes('refused')) ? new Error('Broken.') : null))
  const answers = await busy(lead, jobId, () =>
    settled([
      jobCommand(lead, jobId, defect('a good one')),
      jobCommand(lead, jobId, { type: 'settleDefect', defectId: uuid(), how: 'there is none' }),
      jobCommand(lead, jobId, defect('good as well')),
    ]),
  )
  expect(answers).toEqual(['accepted', 'Error: Broken.', 'accepted'])
  await sameSeqs(jobId)
})

test('one that was answered before ends the group it comes in; each is then answered for itself, and it as before', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  const [before, again] = [defect('answered before'), uuid()]
  expect((await jobCommand(lead, jobId, before, again)).status).toBe('accepted')
  const stored = await readState('job', jobId)
  const answers = await busy(lead, jobId, () =>
    settled([
      jobCommand(lead, jobId, defect('a new one')),
      jobCommand(lead, jobId, before, again),
      jobCommand(lead, jobId, defect('another thing under a used id'), again),
      jobCommand(lead, jobId, defect('another new one')),
    ]),
  )
  expect(answers).toEqual(['accepted', 'accepted', 'commandIdReused', 'accepted'])
  const now = await readState('job', jobId)
  expect(Object.keys(now.defects).length - Object.keys(stored.defects).length).toBe(3)
  await sameSeqs(jobId)
})

test('the order in which a company’s commands came is kept, also around one that is written alone', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  const visit = {
    type: 'scheduleVisit' as const,
    visitId: uuid(),
    kind: 'install' as const,
    startsAt: '2032-01-05T09:00:00Z',
    endsAt: '2032-01-05T10:00:00Z',
    windowFrom: '2032-01-05T09:00:00Z',
    windowTo: '2032-01-05T10:00:00Z',
    personIds: [lead.personId],
  }
  const cancel = { type: 'cancelVisit' as const, visitId: visit.visitId, reason: 'not needed' }
  const asked = await Promise.all(
    [defect('the first'), visit, cancel, defect('the last')].map((command) => readAsked(jobEnvelope(jobId, command), lead)),
  )
  const written = await Promise.all(asked.map(submit))
  expect(written.map(({ outcome: { status } }) => status)).toEqual(['accepted', 'accepted', 'accepted', 'accepted'])
  await sameSeqs(jobId)
})

test('connections that are ended under commands lose none and store none twice', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  const { sequelize } = database()
  jest.spyOn(console, 'warn').mockImplementation(() => undefined)
  let ended = 0
  let over = false
  const killer = (async () => {
    // On a slow machine they would be ended faster than anything is done over them.
    while (!over && ended < 400) {
      const rows = await sequelize
        .query<{ id: number }>('SELECT id FROM information_schema.processlist WHERE db = DATABASE() AND id <> CONNECTION_ID()', {
          type: QueryTypes.SELECT,
        })
        .catch(() => [])
      for (const { id } of rows)
        await sequelize.query(`KILL CONNECTION ${id}`).then(
          () => ended++,
          () => undefined,
        )
      await new Promise((resolve) => setTimeout(resolve, 4))
    }
  })()
  const count = 120
  const commands = Array.from({ length: count }, (_, index) => ({ id: uuid(), command: defect(`number ${index}`) }))
  const give = async ({ id, command }: (typeof commands)[number]): Promise<number> => {
    // As a phone does it: the same again, until it is answered.
    for (let tried = 1; ; tried++) {
      const status = await jobCommand(lead, jobId, command, id).then(
        (outcome) => outcome.status,
        (error: unknown) => (error instanceof ApiError ? error.code : (troubleOf(error) ?? error)),
      )
      if (status === 'accepted') return tried
      if (status !== 'away' || tried === 50) throw new Error(`Answered ${String(status)} at try ${tried}.`, { cause: status })
    }
  }
  try {
    for (let at = 0; at < count; at += 12) await Promise.all(commands.slice(at, at + 12).map(give))
  } finally {
    // Else it would go on under whatever is tested next.
    over = true
    await killer
  }
  expect(ended).toBeGreaterThan(3)
  forgetStates()
  expect(
    Object.values((await readState('job', jobId)).defects)
      .map(({ text }) => text)
      .sort(),
  ).toEqual(commands.map(({ command }) => command.text).sort())
  await sameSeqs(jobId)
})

test('while the database is away all who wait hear so at once', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  failing(() => new ConnectionError(new Error('gone')))
  const started = Date.now()
  const answers = await busy(lead, jobId, () =>
    settled(Array.from({ length: 40 }, () => jobCommand(lead, jobId, defect('a defect')))),
  ).catch((error: unknown) => [String(error)])
  expect(new Set(answers)).toEqual(new Set(['SequelizeConnectionError: gone']))
  expect(Date.now() - started).toBeLessThan(5000)
  jest.restoreAllMocks()
  expect(await settled([jobCommand(lead, jobId, defect('back again'))])).toEqual(['accepted'])
})

test('whatever somebody writes is stored as they wrote it', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  const texts = ["What? It's 50 % off; -- :name ?1 \\' \\ END", '“Licht” 灯 🔥 \u0001 $1 `tick`', '? ? ?', "'); DROP TABLE events; --"]
  expect(await settled(texts.map((text) => jobCommand(lead, jobId, defect(text.padEnd(6)))))).toEqual(texts.map(() => 'accepted'))
  forgetStates()
  const stored = Object.values((await readState('job', jobId)).defects).map(({ text }) => text)
  expect(stored.sort()).toEqual(texts.map((text) => text.trim()).sort())
})

test('another node answers, and has not what was known: begun anew by what it holds, without a gap', async () => {
  const { lead } = await makeCompany()
  const { jobId } = await open(lead)
  await jobCommand(lead, jobId, defect('what that node has'))
  const { seq } = await readState('job', jobId)
  await jobCommand(lead, jobId, defect('what it lacks'))
  const { sequelize } = database()
  await sequelize.query('DELETE FROM events WHERE stream_id = ? AND seq > ?', { replacements: [jobId, seq] })
  await sequelize.query('UPDATE streams SET seq = ? WHERE id = ?', { replacements: [seq, jobId] })
  expect((await jobCommand(lead, jobId, defect('afterwards'))).status).toBe('accepted')
  await sameSeqs(jobId)
  expect(Object.values((await readState('job', jobId)).defects).map(({ text }) => text)).toEqual(['what that node has', 'afterwards'])
})
