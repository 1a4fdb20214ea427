import { jest } from '@jest/globals'
import { QueryTypes } from 'sequelize'
import ICAL from 'ical.js'
import { automationOf, bagsOf, leftInShop } from '../../core/job'
import { testFile } from '../../core/testing/scenario'
import { inventedCode } from '../../core/testing/codes'
import { database } from '../database'
import { seedDemo } from '../database/demo/seed'
import { FeedHub, hub, type FeedClient } from '../realtime/hub'
import { jobCommand, makeCompany, open, openWorld, refusedWith, siteCommand, uuid } from '../testing/world'
import { bagLabels } from './bag-labels'
import { nameLabels } from './name-labels'
import { otherNames } from './other-names'
import { ApiError } from './errors'
import { feedAfter, feedSeq } from './feed'
import { setupCodeOf } from './codes'
import { listJobs } from './job-lists'
import { changePerson } from './people'
import { checkPin, setPin } from './pins'
import { exportJob, jobHistory, jobPage } from './job-page'
import { visitsBetween } from './visits'
import { handoverPack } from './pack'
import { companyPairing } from './pairings'
import { companyTriage } from './triage'
import { nothingTaught } from '../../core/triage'
import { rebuildProjections } from './rebuild'
import { hashPassword, passwordMatches, seal, unseal } from './secrets'
import { listSecretReads } from './need-to-know'
import { triedFor } from './own-password'
import { logIn, type Caller } from './sessions'
import { forgetTries } from './throttle'
import { schedulesCalendar, schedulesSheet } from './schedules'
import { settingsOf } from './branch-rules'
import { eventsAfter, forgetStates, lockState, readState } from './streams'
import { parseCommand, writeCommand } from './write-command'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const count = async (table: string) =>
  Number((await database().sequelize.query<{ n: number }>(`SELECT COUNT(*) AS n FROM ${table}`, { type: QueryTypes.SELECT }))[0]!.n)
/** From an address, and perhaps a device that is known. */
const from = (address: string, device: string | null = null): Caller => ({ address, knows: () => device })
const problem = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => (error instanceof ApiError ? { status: error.status, code: error.code } : String(error)),
  )
const breakerId = async (siteId: string, number: string) =>
  Object.values((await readState('site', siteId)).breakers).find((breaker) => breaker.number === number)!.id

describe('commands', () => {
  test('the same id again gives the same answer, refusals included, and stores nothing twice', async () => {
    const { lead } = await makeCompany()
    const { siteId } = await open(lead)
    const id = uuid()
    const observe = { type: 'observeBreaker' as const, breakerId: await breakerId(siteId, '1'), state: 'open' as const }
    const first = await siteCommand(lead, siteId, observe, id)
    const again = await siteCommand(lead, siteId, observe, id)
    expect(again).toEqual(first)
    expect(first.status).toBe('accepted')
    const refusedId = uuid()
    const tag = { type: 'hangTag' as const, tagId: uuid(), breakerId: await breakerId(siteId, '2'), lock: 'red' }
    const refused = await siteCommand(lead, siteId, tag, refusedId)
    expect(refused).toMatchObject({ status: 'refused', refusal: { code: 'notOpen' } })
    await siteCommand(lead, siteId, { ...observe, breakerId: await breakerId(siteId, '2') })
    // The world has changed; the stored refusal has not.
    expect(await siteCommand(lead, siteId, tag, refusedId)).toEqual(refused)
    expect((await readState('site', siteId)).tags).toEqual({})
    expect(await problem(siteCommand(lead, siteId, { ...tag, lock: 'blue' }, refusedId))).toEqual({ status: 409, code: 'commandIdReused' })
  })

  test('every connection reads what is committed, and no more', async () => {
    const levels = await Promise.all(
      Array.from({ length: 6 }, () =>
        database().sequelize.transaction((transaction) =>
          database().sequelize.query<{ level: string }>('SELECT @@tx_isolation AS level, SLEEP(0.05)', {
            type: QueryTypes.SELECT,
            transaction,
          }),
        ),
      ),
    )
    expect(new Set(levels.map(([row]) => row!.level))).toEqual(new Set(['READ-COMMITTED']))
  })

  test('what a transaction wrote and took back is seen by nobody', async () => {
    const { lead } = await makeCompany()
    const { siteId } = await open(lead)
    const before = (await readState('site', siteId)).seq
    const number = await breakerId(siteId, '1')
    const site = (await database().models.sites.findByPk(siteId))!
    // Also on a server that has not read this home yet.
    forgetStates()
    const envelope = {
      id: uuid(),
      stream: 'site' as const,
      streamId: siteId,
      at: new Date().toISOString(),
      basedOnSeq: before,
      jobSeq: null,
      heldMs: 0,
      command: { type: 'observeBreaker', breakerId: number, state: 'open', how: 'did', note: '' },
    }
    const work = database().sequelize.transaction(async (transaction) => {
      const rules = await settingsOf(site.branchId, transaction)
      await writeCommand(
        { envelope, command: parseCommand(envelope), viewer: lead, now: new Date(), row: site, settings: rules },
        transaction,
      )
      expect((await lockState('site', siteId, transaction))!.state.seq).toBe(before + 1)
      throw new Error('taken back')
    })
    await expect(work).rejects.toThrow('taken back')
    const after = await readState('site', siteId)
    expect([after.seq, after.breakers[number]!.state]).toEqual([before, 'closed'])
    expect((await siteCommand(lead, siteId, envelope.command as never)).seq).toBe(before + 1)
  })

  test('many writers at once: seq has no gaps, every command is stored once, the feed has no gaps either', async () => {
    const { lead, add } = await makeCompany()
    const crew = await Promise.all([add('technician'), add('technician'), add('apprentice', false)])
    const { siteId, jobId } = await open(lead)
    const start = await feedSeq(lead.companyId)
    const boxes = Object.keys((await readState('site', siteId)).boxes)
    const work = Array.from({ length: 90 }, (_, index) => {
      const who = crew[index % 3]!
      return index % 3 === 0
        ? jobCommand(lead, jobId, { type: 'listDefect', defectId: uuid(), pointId: null, text: `defect ${index}` })
        : siteCommand(who, siteId, { type: 'observeLive', boxId: boxes[index % boxes.length]!, what: 'lightOn' })
    })
    const outcomes = await Promise.all(work)
    expect(outcomes.every((outcome) => outcome.status === 'accepted')).toBe(true)
    for (const [streamId, expected] of [
      [siteId, 61],
      [jobId, 31],
    ] as const) {
      const seqs = (await eventsAfter(streamId, 0)).map((event) => event.seq)
      expect(seqs).toEqual(Array.from({ length: expected }, (_, index) => index + 1))
    }
    const feed = await feedAfter(lead.companyId, start, 1000)
    // Commands that were written together are one message of the feed.
    expect(feed.map((message) => message.seq)).toEqual(feed.map((_, index) => start + 1 + index))
    expect(feed.length).toBeLessThan(90)
    for (const streamId of [siteId, jobId])
      expect(feed.filter((message) => message.streamId === streamId).flatMap(({ events }) => events.map(({ seq }) => seq))).toEqual(
        (await eventsAfter(streamId, 1)).map(({ seq }) => seq),
      )
    // Whatever was cached, a fresh fold says the same.
    const cached = await readState('site', siteId)
    forgetStates()
    expect(await readState('site', siteId)).toEqual(cached)
  })

  test('two people send the same command id at the same moment: one answer', async () => {
    const { lead } = await makeCompany()
    const { siteId } = await open(lead)
    const id = uuid()
    const command = { type: 'observeBreaker' as const, breakerId: await breakerId(siteId, '1'), state: 'open' as const }
    const outcomes = await Promise.all(Array.from({ length: 8 }, () => siteCommand(lead, siteId, command, id)))
    expect(new Set(outcomes.map((outcome) => JSON.stringify(outcome))).size).toBe(1)
    expect((await eventsAfter(siteId, 1)).length).toBe(1)
  })

  test('a serial taken by two jobs at once is given to one of them', async () => {
    const { lead } = await makeCompany()
    const jobs = await Promise.all([open(lead), open(lead)])
    // Another company of this database may have no catalogue: give this one a model.
    const catalogue = await database().models.models.findAll({ raw: true })
    const modelId = uuid()
    await database().models.models.create({
      ...catalogue[0]!,
      id: modelId,
      companyId: lead.companyId,
      data: JSON.stringify({ ...JSON.parse(catalogue.find((row) => row.name.includes('switch, with neutral'))!.data), id: modelId }),
    })
    const outcomes = await Promise.all(
      jobs.map(async ({ jobId }, index) => {
        const { jobState } = await jobPage(lead, jobId)
        const boxId = jobState.boxIds[0]!
        const pointIds = Object.values(jobState.points)
          .filter((point) => point.controls[0]!.boxId === boxId)
          .map((point) => point.id)
        expect(await jobCommand(lead, jobId, { type: 'chooseDevice', boxId, gang: 1, modelId, pointIds })).toMatchObject({
          status: 'accepted',
        })
        return jobCommand(lead, jobId, {
          type: 'recordUnit',
          unitId: uuid(),
          boxId,
          gang: 1,
          serial: 'TWICE-1',
          setupCode: inventedCode(index + 5),
        })
      }),
    )
    expect(outcomes.map((outcome) => outcome.status).sort()).toEqual(['accepted', 'refused'])
  })

  test('an id that belongs to another company’s visit is refused and changes nothing there', async () => {
    const mine = await makeCompany()
    const other = await makeCompany()
    const visitId = uuid()
    const visit = (lead: typeof mine.lead, startsAt: string) => ({
      type: 'scheduleVisit' as const,
      visitId,
      kind: 'install' as const,
      callbackId: null,
      startsAt,
      endsAt: '2030-01-01T12:00:00Z',
      windowFrom: startsAt,
      windowTo: '2030-01-01T11:00:00Z',
      personIds: [lead.personId],
    })
    expect(await jobCommand(mine.lead, (await open(mine.lead)).jobId, visit(mine.lead, '2030-01-01T09:00:00Z'))).toMatchObject({
      status: 'accepted',
    })
    expect(await problem(jobCommand(other.lead, (await open(other.lead)).jobId, visit(other.lead, '2030-01-01T10:00:00Z')))).toEqual({
      status: 409,
      code: 'idTaken',
    })
    const row = (await database().models.visits.findByPk(visitId))!
    expect([row.companyId, row.startsAt.toISOString()]).toEqual([mine.lead.companyId, '2030-01-01T09:00:00.000Z'])
  })

  test('two dispatchers book one person for two homes in the same moment: one hears of the other', async () => {
    const { lead } = await makeCompany()
    const jobs = await Promise.all([open(lead), open(lead)])
    const visit = (from: string, to: string) => ({
      type: 'scheduleVisit' as const,
      visitId: uuid(),
      kind: 'install' as const,
      callbackId: null,
      startsAt: from,
      endsAt: to,
      windowFrom: from,
      windowTo: to,
      personIds: [lead.personId],
    })
    const outcomes = await Promise.all(
      jobs.map(({ jobId }) => jobCommand(lead, jobId, visit('2031-05-05T09:00:00Z', '2031-05-05T11:00:00Z'))),
    )
    expect(outcomes.map(({ status }) => status).sort()).toEqual(['accepted', 'refused'])
    expect(outcomes.find(({ status }) => status === 'refused')).toMatchObject({ refusal: { code: 'doubleBooked' } })
    // Straight after the other visit is no clash, and what is meant is taken.
    const { jobId } = jobs[0]!
    expect(await jobCommand(lead, jobId, visit('2031-05-05T11:00:00Z', '2031-05-05T12:00:00Z'))).toMatchObject({ status: 'accepted' })
    const meant = { ...visit('2031-05-05T10:00:00Z', '2031-05-05T11:30:00Z'), alsoBooked: true }
    expect(await jobCommand(lead, jobId, meant)).toMatchObject({ status: 'accepted' })
  })

  test('nonsense is no command', async () => {
    const { lead } = await makeCompany()
    const { siteId } = await open(lead)
    expect(await problem(siteCommand(lead, siteId, { type: 'melt' } as never))).toEqual({ status: 400, code: 'badCommand' })
    expect(await problem(siteCommand(lead, uuid(), { type: 'leaveSite' }))).toEqual({ status: 404, code: 'notFound' })
  })
})

describe('one company never sees another’s data; a technician sees their branch', () => {
  test('jobs, sites, commands, lists', async () => {
    const mine = await makeCompany()
    const other = await makeCompany()
    const { jobId, siteId } = await open(mine.lead)
    expect(await problem(jobPage(other.lead, jobId))).toEqual({ status: 404, code: 'notFound' })
    expect(await problem(jobHistory(other.lead, jobId))).toEqual({ status: 404, code: 'notFound' })
    expect(await problem(handoverPack(other.lead, jobId))).toEqual({ status: 404, code: 'notFound' })
    expect(await problem(siteCommand(other.lead, siteId, { type: 'leaveSite' }))).toEqual({ status: 404, code: 'notFound' })
    expect((await listJobs(other.lead, {})).map((job) => job.id)).not.toContain(jobId)
    const elsewhere = uuid()
    await database().models.branches.create({
      id: elsewhere,
      companyId: mine.lead.companyId,
      name: 'Two',
      schemeId: 'iec230',
      timezone: 'UTC',
      settings: {},
    })
    const far = await mine.add('technician', true, elsewhere)
    const near = await mine.add('technician')
    expect(await problem(jobPage(far, jobId))).toEqual({ status: 404, code: 'notFound' })
    expect((await jobPage(near, jobId)).job.id).toBe(jobId)
    expect(await listJobs(far, {})).toEqual([])
  })
})

describe('intake', () => {
  test('a broken file imports nothing at all', async () => {
    const { lead } = await makeCompany()
    const before = await Promise.all(['jobs', 'sites', 'customers', 'streams', 'events'].map(count))
    expect(await problem(open(lead, { ...testFile, points: [{ ...testFile.points[0]!, controls: [{ box: 'ghost', gang: 1 }] }] }))).toEqual(
      { status: 422, code: 'fileBroken' },
    )
    expect(await problem(open(lead, { ...testFile, site: { ...testFile.site, scheme: 'iec230' } }))).toEqual({
      status: 422,
      code: 'schemeDiffers',
    })
    expect(await Promise.all(['jobs', 'sites', 'customers', 'streams', 'events'].map(count))).toEqual(before)
  })
  test('job numbers have no gaps under concurrent intakes; a second job shares the home', async () => {
    const { lead } = await makeCompany()
    const opened = await Promise.all(Array.from({ length: 6 }, () => open(lead)))
    const numbers = (await listJobs(lead, {})).map((job) => job.number).sort()
    expect(numbers).toEqual([1001, 1002, 1003, 1004, 1005, 1006])
    const second = await open(lead, { ...testFile, job: { title: 'Second', note: '' } }, opened[0]!.siteId)
    expect(second.siteId).toBe(opened[0]!.siteId)
    expect(Object.keys((await readState('site', second.siteId)).boxes)).toHaveLength(3)
  })
})

describe('live feed', () => {
  const client = (companyId: string, cursor: number) => {
    const got: number[] = []
    const events: string[] = []
    const send: FeedClient['send'] = (message) => {
      events.push(...message.events.map(({ payload }) => (payload as { text: string }).text))
      return got.push(message.seq) > 0
    }
    const one: FeedClient = { companyId, cursor, wants: () => true, send, deaf: () => undefined }
    return { one, got, events }
  }
  test('every client gets every change once, in order; one that comes back resumes', async () => {
    const { lead } = await makeCompany()
    const { jobId } = await open(lead)
    const start = await feedSeq(lead.companyId)
    const clients = Array.from({ length: 20 }, () => client(lead.companyId, start))
    const leave = clients.map(({ one }) => hub.add(one))
    await Promise.all(
      Array.from({ length: 30 }, (_, index) =>
        jobCommand(lead, jobId, { type: 'listDefect', defectId: uuid(), pointId: null, text: `number ${index}` }),
      ),
    )
    for (let waited = 0; waited < 5000 && clients.some(({ events }) => events.length < 30); waited += 20)
      await new Promise((resolve) => setTimeout(resolve, 20))
    const wanted = Array.from({ length: 30 }, (_, index) => `number ${index}`).sort()
    for (const { got, events } of clients) {
      expect(got).toEqual(got.map((_, index) => start + 1 + index))
      expect([...events].sort()).toEqual(wanted)
      expect(events).toEqual(clients[0]!.events)
    }
    const last = clients[0]!.got.at(-1)!
    leave[0]!()
    await jobCommand(lead, jobId, { type: 'listDefect', defectId: uuid(), pointId: null, text: 'while away' })
    const back = client(lead.companyId, clients[0]!.one.cursor)
    leave.push(hub.add(back.one))
    for (let waited = 0; waited < 3000 && back.got.length < 1; waited += 20) await new Promise((resolve) => setTimeout(resolve, 20))
    expect(back.got).toEqual([last + 1])
    for (const off of leave) off()
  })
  test('a server whose database fails, or says nothing, tells nobody for long that they are live; one that hears goes on', async () => {
    const ended = async (seqs: () => Promise<Map<string, number>>) => {
      const own = new FeedHub(seqs, 600)
      let deaf = 0
      const off = own.add({ ...client(uuid(), 0).one, deaf: () => deaf++ })
      await new Promise((resolve) => setTimeout(resolve, 1500))
      off()
      return deaf > 0
    }
    const hangs = () => new Promise<Map<string, number>>(() => undefined)
    expect(
      await Promise.all([ended(hangs), ended(() => Promise.reject(new Error('away'))), ended(() => Promise.resolve(new Map()))]),
    ).toEqual([true, true, false])
  })
})

describe('secrets', () => {
  test('sealed, opened, and not openable when touched', () => {
    const sealed = seal('34970112332')
    expect(sealed).not.toContain('34970112332')
    expect(unseal(sealed)).toBe('34970112332')
    expect(() => unseal(sealed.slice(0, -2) + (sealed.endsWith('AA') ? 'BB' : 'AA'))).toThrow()
  })
  test('passwords', async () => {
    const stored = await hashPassword('long enough')
    expect([
      await passwordMatches('long enough', stored),
      await passwordMatches('long enougH', stored),
      await passwordMatches('x', 'nonsense'),
    ]).toEqual([true, false, false])
  })
  test('login closes after too many wrong passwords, for the right one too', async () => {
    const { lead } = await makeCompany()
    const { models } = database()
    await models.people.update(
      { login: 'throttle.me', passwordHash: await hashPassword('the right one') },
      { where: { id: lead.personId } },
    )
    for (let i = 0; i < 8; i++)
      expect(await problem(logIn({ login: 'throttle.me', password: 'wrong' }, from('10.0.0.1')))).toEqual({
        status: 401,
        code: 'wrongLogin',
      })
    expect(await problem(logIn({ login: 'throttle.me', password: 'the right one' }, from('10.0.0.2')))).toEqual({
      status: 429,
      code: 'tooManyTries',
    })
    // What the refusal says helps, does.
    await changePerson(lead, lead.personId, { password: 'another right one' })
    expect((await logIn({ login: 'throttle.me', password: 'another right one' }, from('10.0.0.3'))).id).toBe(lead.personId)
  })
  test('many guesses of a PIN at once are no more tries than five', async () => {
    const { lead } = await makeCompany()
    await database().models.people.update({ pinHash: await hashPassword('2468') }, { where: { id: lead.personId } })
    const guess = (pin: string) => problem(checkPin(lead.companyId, lead.personId, pin))
    const answers = await Promise.all(Array.from({ length: 20 }, () => guess('1111')))
    const codes = answers.map((answer) => (answer as { code: string }).code).sort()
    expect(codes).toEqual([...Array.from({ length: 15 }, () => 'pinLocked'), ...Array.from({ length: 5 }, () => 'wrongPin')])
    expect(await guess('2468')).toEqual({ status: 429, code: 'pinLocked' })
  })
  test('an address from which many are wrong is closed to all logins; right ones do not count', async () => {
    const { lead } = await makeCompany()
    await database().models.people.update(
      { login: 'shared.desk', passwordHash: await hashPassword('right') },
      { where: { id: lead.personId } },
    )
    for (let i = 0; i < 45; i++) await logIn({ login: 'shared.desk', password: 'right' }, from('10.0.0.9'))
    for (let i = 0; i < 40; i++) await problem(logIn({ login: `nobody.${i}`, password: 'x' }, from('10.0.0.9')))
    expect(await problem(logIn({ login: 'shared.desk', password: 'right' }, from('10.0.0.9')))).toEqual({
      status: 429,
      code: 'tooManyTries',
    })
    expect((await logIn({ login: 'shared.desk', password: 'right' }, from('10.0.0.10'))).id).toBe(lead.personId)
    // Where somebody has logged in before, nobody else’s tries count; their own do.
    expect((await logIn({ login: 'shared.desk', password: 'right' }, from('10.0.0.9', 'phone'))).id).toBe(lead.personId)
  })
  test('whoever guesses at a login locks nobody out of the devices they use, and guesses there no longer than anywhere', async () => {
    const { lead } = await makeCompany()
    await database().models.people.update(
      { login: 'known.one', passwordHash: await hashPassword('right') },
      { where: { id: lead.personId } },
    )
    for (let i = 0; i < 9; i++) await problem(logIn({ login: 'known.one', password: 'wrong' }, from(`10.1.0.${i}`)))
    const right = (device: string | null) => problem(logIn({ login: 'known.one', password: 'right' }, from('10.1.1.1', device)))
    expect(await right(null)).toEqual({ status: 429, code: 'tooManyTries' })
    expect(await right('phone')).toBeNull()
    const wrong = await Promise.all(
      Array.from({ length: 30 }, () => problem(logIn({ login: 'known.one', password: 'wrong' }, from('10.1.1.1', 'phone')))),
    )
    expect(wrong.filter((one) => (one as { code: string }).code === 'wrongLogin')).toHaveLength(10)
    expect(await right('phone')).toEqual({ status: 429, code: 'tooManyTries' })
    expect(await right('tablet')).toBeNull()
  })
  test('a password is guessed no oftener where a PIN is set; wrong PINs rest longer each time, and their owner hears of them', async () => {
    const { lead } = await makeCompany()
    await database().models.people.update(
      { login: 'pin.owner', passwordHash: await hashPassword('right'), pinHash: await hashPassword('2468') },
      { where: { id: lead.personId } },
    )
    const guesses = await Promise.all(Array.from({ length: 20 }, () => problem(setPin(lead, { password: 'wrong', pin: '1357' }))))
    expect(guesses.filter((one) => (one as { code: string }).code === 'wrongPassword')).toHaveLength(8)
    const rest = async () => {
      // The five minutes are over; the hour is not.
      await forgetTries('pin', lead.personId)
      const answers = await Promise.all(Array.from({ length: 7 }, () => problem(checkPin(lead.companyId, lead.personId, '1111'))))
      return answers.filter((one) => (one as { code: string }).code === 'wrongPin').length
    }
    expect([await rest(), await rest(), await rest()]).toEqual([5, 5, 0])
    expect((await triedFor(lead.personId)).pins).toBeGreaterThanOrEqual(10)
    expect(await problem(checkPin(lead.companyId, lead.personId, '2468'))).toEqual({ status: 429, code: 'pinLocked' })
  })
})

describe('the demo', () => {
  let closeDemo: () => Promise<void>
  beforeAll(async () => {
    await close()
    closeDemo = await openWorld()
    await seedDemo(new Date())
  })
  afterAll(async () => {
    await closeDemo()
    close = async () => undefined
  })
  const viewer = async (login: string) => {
    const { viewerOf } = await import('./access')
    return viewerOf((await database().models.people.findOne({ where: { login } }))!)
  }

  test('closed callbacks teach their company and nobody else; what was mended on the telephone waits for a call', async () => {
    const lead = await viewer('odo.reed')
    const { taught } = await companyTriage(lead)
    expect(taught).toMatchObject({ closed: 2, causes: { routerChanged: 1, earlyFailure: 1 }, symptoms: { routerChanged: { offline: 1 } } })
    expect(taught.tried).toEqual({ routerChanged: { times: 1, mended: 1 } })
    expect(taught.answers.router).toEqual({ routerChanged: [1, 0] })
    expect(Object.values(taught.byModel)).toEqual([{ routerChanged: 1, earlyFailure: 1 }])
    expect((await companyTriage({ ...lead, companyId: uuid() })).taught).toEqual(nothingTaught())
  })
  test('has jobs in all stages over two branches, a day of twelve crews in one of them; a tag hangs, a 3-way fails, callbacks are open, two jobs share a home', async () => {
    const lead = await viewer('odo.reed')
    const jobs = await listJobs(lead, {})
    expect(jobs).toHaveLength(57)
    expect(new Set(jobs.map((job) => job.status))).toEqual(
      new Set(['toSchedule', 'scheduled', 'onSite', 'between', 'handedOver', 'callback']),
    )
    expect(await count('people')).toBe(19)
    expect(await count('hanging_tags')).toBeGreaterThanOrEqual(3)
    expect(jobs.filter((job) => job.failed > 0).map((job) => job.siteName)).toEqual(['School studio 5'])
    expect(new Set(jobs.map((job) => job.siteId)).size).toBe(56)
    const now = Date.now()
    const near = await visitsBetween(lead, new Date(now - 43_200_000), new Date(now + 36_000_000), { branchId: lead.branchId })
    expect(near.length).toBeGreaterThan(38)
    expect(new Set(near.map(({ personIds }) => personIds[0])).size).toBe(12)
  })
  test('what a company has learnt of pairing follows from its records, and nobody else sees it', async () => {
    const lead = await viewer('odo.reed')
    const { causes, models } = await companyPairing(lead)
    const times = Object.values(models).flatMap(({ joins }) => (joins === null ? [] : [joins]))
    expect(Object.values(causes.wifi ?? {}).reduce((sum, one) => sum + one, 0)).toBeGreaterThan(0)
    expect(times.length).toBeGreaterThan(0)
    for (const minutes of times) expect(minutes).toBeLessThan(15)
    expect(await companyPairing({ ...lead, companyId: uuid() })).toEqual({ causes: {}, models: {} })
  })
  test('projections rebuilt from the streams are identical row by row, and the feed goes on where it was', async () => {
    const lead = await viewer('odo.reed')
    const { siteId } = (await listJobs(lead, {}))[0]!
    expect(await siteCommand(lead, siteId, { type: 'startLoneWork', contact: 'the office', everyMinutes: 30 })).toMatchObject({
      status: 'accepted',
    })
    expect(await count('solo_watches')).toBeGreaterThan(0)
    const rows = () =>
      Promise.all(
        [
          'visits',
          'visit_people',
          'units',
          'callbacks',
          'hanging_tags',
          'open_alarms',
          'solo_watches',
          'home_finds',
          'pairings',
          'jobs',
          'feeds',
        ].map((name) => database().sequelize.query(`SELECT * FROM ${name} ORDER BY 1, 2`, { type: QueryTypes.SELECT })),
      )
    const before = await rows()
    await rebuildProjections()
    expect(await rows()).toEqual(before)
    const behind = await database().sequelize.query(
      'SELECT f.company_id FROM feeds f WHERE f.seq <> (SELECT COALESCE(MAX(e.seq), 0) FROM feed_entries e WHERE e.company_id = f.company_id)',
      { type: QueryTypes.SELECT },
    )
    expect(behind).toEqual([])
  })
  test('snapshots give the same state as the whole stream', async () => {
    const { models } = database()
    const big = (await models.streams.findAll({ raw: true })).filter((row) => row.snapshot !== null)
    expect(big.length).toBeGreaterThan(0)
    for (const row of big) {
      forgetStates()
      const withSnapshot = await readState(row.kind, row.id)
      await models.streams.update({ snapshotVersion: -1 }, { where: { id: row.id } })
      forgetStates()
      expect(await readState(row.kind, row.id)).toEqual(withSnapshot)
    }
  })
  test('codes are sealed in the database, read by their own route, and every reading is logged', async () => {
    const tech = await viewer('bram.ash')
    const job = (await listJobs(tech, { search: 'Tide House' }))[0]!
    const page = await jobPage(tech, job.id)
    const unit = Object.values(page.jobState.units)[0]!
    // On a visit there today.
    const now = new Date()
    const visit = await database().models.visits.findOne({ where: { siteId: job.siteId }, order: [['startsAt', 'ASC']] })
    await visit!.update({ startsAt: now, endsAt: now })
    expect(await database().models.visitPeople.count({ where: { visitId: visit!.id, personId: tech.personId } })).toBe(1)
    expect(unit.code.sealed).toBeNull()
    const { code } = await setupCodeOf(tech, job.id, unit.id)
    expect(code).toMatch(/^\d{11}$/)
    expect(code.endsWith(unit.code.ending)).toBe(true)
    const stored = await database().sequelize.query<{ payload: string }>('SELECT payload FROM events', { type: QueryTypes.SELECT })
    expect(stored.some((row) => row.payload.includes(code))).toBe(false)
    expect(await count('secret_reads')).toBe(1)
    expect(JSON.stringify(await exportJob(tech, job.id))).not.toMatch(/"sealed":"v1/)
    const pack = await handoverPack(tech, job.id)
    expect(Buffer.from(pack.bytes).subarray(0, 5).toString()).toBe('%PDF-')
    expect(await count('secret_reads')).toBe(2)
    // Who has no visit there about now gets neither code nor a pack that holds them; the lead reads who did.
    const anna = await viewer('bram.ash')
    await database().models.visits.update({ startsAt: new Date(0), endsAt: new Date(1) }, { where: { siteId: job.siteId } })
    expect(await refusedWith(setupCodeOf(anna, job.id, unit.id))).toEqual([403, 'noVisit'])
    expect(
      Buffer.from((await handoverPack(anna, job.id)).bytes)
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-')
    expect(await count('secret_reads')).toBe(2)
    // The office without a visit there says why, the lead need not.
    const office = await viewer('lena.moss')
    expect(await refusedWith(setupCodeOf(office, job.id, unit.id))).toEqual([422, 'reasonNeeded'])
    expect((await setupCodeOf(office, job.id, unit.id, 'the customer reads it out')).code).toBe(code)
    expect((await setupCodeOf(await viewer('odo.reed'), job.id, unit.id)).code).toBe(code)
    const { reads } = await listSecretReads(await viewer('odo.reed'))
    expect(reads.splice(0, 2).map(({ who, reason }) => [who, reason])).toEqual([
      ['Odo Reed', ''],
      ['Lena Moss', 'the customer reads it out'],
    ])
    expect(reads.map(({ what, who, siteName, serial, jobId }) => [what, who, siteName, serial, jobId])).toEqual([
      ['pack', tech.name, 'Tide House', '', job.id],
      ['setupCode', tech.name, 'Tide House', unit.serial, job.id],
    ])
    expect((await listSecretReads({ ...(await viewer('odo.reed')), companyId: uuid() })).reads).toEqual([])
  })
  test('what the shop recorded of a device: its code leaves the server by no page, and goes with the serial into the wall', async () => {
    const tech = await viewer('odo.reed')
    const { id: jobId } = (await listJobs(tech, { search: 'Heron House' }))[0]!
    const { jobState, siteState } = await jobPage(tech, jobId)
    const [ready] = Object.values(jobState.prepared).filter(({ lamp }) => lamp === 'passed')
    expect(ready).toMatchObject({ code: { sealed: null, ending: expect.stringMatching(/^\d\d$/) } })
    expect(JSON.stringify(await exportJob(tech, jobId))).not.toMatch(/"sealed":"v1/)
    const labels = await bagLabels(tech, jobId, 'http://127.0.0.1:1')
    expect(labels.bytes.subarray(0, 5).toString()).toBe('%PDF-')
    expect(bagsOf(jobState, siteState).map(({ devices }) => devices.map(({ unit }) => unit && leftInShop(unit)))).toEqual([
      [[]],
      [['the carton', 'the update', 'its settings', 'the lamp']],
    ])
    const unitId = uuid()
    const { boxId, gang, serial } = ready!
    const record = { type: 'recordUnit' as const, unitId, boxId, gang, serial, setupCode: '', setupCodeAgain: '' }
    expect(await jobCommand(tech, jobId, record)).toMatchObject({ status: 'accepted' })
    const { code } = await setupCodeOf(tech, jobId, unitId)
    expect(code.endsWith(ready!.code!.ending)).toBe(true)
    // The device in the wall has no name yet; where there are names they come as a paper.
    expect(await refusedWith(nameLabels(tech, jobId))).toEqual([409, 'noNames'])
    const { id: withNames } = (await listJobs(tech, { search: 'School studio 5' }))[0]!
    expect((await nameLabels(tech, withNames)).bytes.subarray(0, 5).toString()).toBe('%PDF-')
    expect(await refusedWith(nameLabels(await viewer('sefa.vale'), withNames))).toEqual([404, 'notFound'])
    // Nothing waits any more where nothing is left to be labelled.
    const { id: other } = (await listJobs(tech, { search: 'Tide House' }))[0]!
    expect(await refusedWith(bagLabels(tech, other, 'http://127.0.0.1:1'))).toEqual([409, 'noBags'])
  })
  test('what a home does by itself, as a calendar that an independent reader repeats by the clock of the home, and on paper', async () => {
    const tech = await viewer('odo.reed')
    const { id: jobId } = (await listJobs(tech, { search: 'The Net Loft' })).find(({ title }) => title === 'Net loft and stair')!
    const { jobState } = await jobPage(tech, jobId)
    const [deviceId] = Object.values(automationOf(jobState).routines).flatMap(({ routine }) =>
      routine.kind === 'pair' ? routine.deviceIds : [],
    )
    const routine = {
      ...{
        id: uuid(),
        name: 'Weekday mornings',
        runs: 'device' as const,
        paused: false,
        modes: [],
        kind: 'pair' as const,
        deviceIds: [deviceId!],
      },
      ...{
        on: { at: 'clock' as const, minute: 390 },
        off: { at: 'clock' as const, minute: 480 },
        days: [1, 2, 3, 4, 5],
        date: null,
        level: 60,
      },
    }
    expect(await jobCommand(tech, jobId, { type: 'setRoutine', routine })).toMatchObject({ status: 'accepted' })
    const { text } = await schedulesCalendar(tech, jobId, new Date('2026-11-28T12:00:00Z'))
    const events = new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents('vevent').map((one) => new ICAL.Event(one))
    const mornings = events.filter(({ summary }) => summary === 'Weekday mornings')
    expect(mornings).toHaveLength(1)
    const repeats = mornings[0]!.iterator()
    const starts = Array.from({ length: 10 }, () => repeats.next()!)
    expect(starts.map(({ hour, minute }) => [hour, minute])).toEqual(starts.map(() => [6, 30]))
    // Sunday is 1 to this reader.
    expect(starts.map((one) => one.dayOfWeek()).every((day) => day >= 2 && day <= 6)).toBe(true)
    expect(mornings[0]!.description).toContain('Mon to Fri')
    // What listens has no time.
    expect(events.some(({ summary }) => summary === 'Bedtime')).toBe(false)
    expect((await schedulesSheet(tech, jobId)).bytes.subarray(0, 5).toString()).toBe('%PDF-')
    const stranger = await viewer('sefa.vale')
    for (const work of [schedulesCalendar, schedulesSheet]) expect(await refusedWith(work(stranger, jobId))).toEqual([404, 'notFound'])
    expect(await jobCommand(tech, jobId, { type: 'dropRoutine', routineId: routine.id })).toMatchObject({ status: 'accepted' })
  })
  test('names that another job gave in the same home are heard there, with where they are; nobody else’s', async () => {
    const tech = await viewer('odo.reed')
    const jobs = await listJobs(tech, {})
    let heard = 0
    for (const job of jobs) {
      const beside = jobs.filter(({ id, siteId }) => siteId === job.siteId && id !== job.id)
      const states = await Promise.all(beside.map(({ id }) => jobPage(tech, id)))
      const expected = states.flatMap(({ jobState }) =>
        Object.values(jobState.units).flatMap(({ name, removedAt }) => (removedAt || !name ? [] : [name])),
      )
      const { names } = await otherNames(tech, job.id)
      expect(names.map(({ name }) => name).sort()).toEqual(expected.sort())
      for (const { at } of names) expect(at).not.toBe('')
      heard += names.length
    }
    expect(heard).toBeGreaterThan(0)
    expect(await refusedWith(otherNames(await viewer('sefa.vale'), jobs.find(({ branchId }) => branchId === tech.branchId)!.id))).toEqual([
      404,
      'notFound',
    ])
  })
  test('history has a line for every event', async () => {
    const lead = await viewer('odo.reed')
    for (const job of await listJobs(lead, {})) {
      const { lines } = await jobHistory(lead, job.id)
      expect(lines.length).toBe((await eventsAfter(job.id, 0)).length + (await eventsAfter(job.siteId, 0)).length)
      expect(lines.filter((line) => /undefined|does not know/.test(line.what))).toEqual([])
    }
  })
})
