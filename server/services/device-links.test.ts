import { jest } from '@jest/globals'
import type { LinkAnswer, LinkDoing } from '../../core/link'
import { linkOf } from '../../core/job'
import { testModel } from '../../core/testing/scenario'
import { inventedCode } from '../../core/testing/codes'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, refusedWith, siteCommand, uuid } from '../testing/world'
import { book } from '../testing/visits'
import { modelRow } from './catalogue'
import { endLink, linkOfPass, listLinks, makeLink, pairLink } from './device-links'
import { askLink, readJobLink, takeLinkAnswer, takeLinkTasks } from './link-asks'
import { readState } from './streams'

jest.setTimeout(180_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const address = () => `10.0.0.${Math.floor(Math.random() * 250)}`
async function paired(viewer: Parameters<typeof makeLink>[0], name = 'Laptop') {
  const { id, code } = await makeLink(viewer, { id: uuid(), name })
  const { key } = await pairLink({ code, name: '' }, address())
  const pass = `Bearer ${id}.${key}`
  return { id, code, pass, row: () => linkOfPass(pass) }
}
const device = {
  vendor: 'Maker',
  product: 'Switch',
  serial: 'SN-1',
  channels: [{ endpoint: 1, level: false, speed: false, meter: false }],
  dbm: -60,
  network: '',
  ms: 900,
}
const joined: LinkAnswer = { ok: true, did: 'join', device }

/** A job with one device in the wall, its crew, and a link that asks for work. */
async function crewAtHome() {
  const { lead, add } = await makeCompany()
  const anna = await add('technician')
  const { jobId, siteId } = await open(lead)
  await book(lead, jobId, [anna.personId], [8, 10])
  const site = await readState('site', siteId)
  const job = await readState('job', jobId)
  const boxId = Object.keys(site.boxes)[0]!
  const modelId = uuid()
  await database().models.models.create(modelRow(lead.companyId, { ...testModel, id: modelId }, true))
  const pointIds = Object.values(job.points)
    .flatMap(({ id, controls }) => (controls.some((one) => one.boxId === boxId) ? [id] : []))
    .slice(0, 1)
  const unitId = uuid()
  const give = async (command: Parameters<typeof jobCommand>[2]) =>
    expect(await jobCommand(anna, jobId, command)).toMatchObject({ status: 'accepted' })
  await give({ type: 'chooseDevice', boxId, gang: 1, modelId, pointIds })
  const code = inventedCode(Math.floor(Math.random() * 8000))
  await give({ type: 'recordUnit', unitId, boxId, gang: 1, serial: `SN-${unitId.slice(-6)}`, setupCode: code, setupCodeAgain: code })
  const power = (state: 'open' | 'closed') =>
    Promise.all(
      site.boxes[boxId]!.breakerIds.map((breakerId) =>
        siteCommand(anna, siteId, { type: 'observeBreaker', breakerId, state, how: 'did', note: '' }),
      ),
    )
  const link = await paired(lead)
  const ask = (doing: LinkDoing, id = uuid(), viewer = anna, more: { code?: string; anyway?: boolean } = {}) =>
    askLink(viewer, jobId, { id, unitId, doing, clear: false, code: '', anyway: false, ...more })
  const take = async () => (await takeLinkTasks(await link.row(), () => true)).tasks
  const answer = async (id: string, said: LinkAnswer) => takeLinkAnswer(await link.row(), { id, answer: said })
  const state = () => readState('job', jobId)
  return { lead, anna, add, jobId, siteId, unitId, code, power, link, ask, take, answer, state }
}

test('a code makes one link, once, and not for long; a pass is worth something until the link is ended', async () => {
  const { lead, add } = await makeCompany()
  const { id, code, pass } = await paired(lead, 'Van 2')
  expect(await refusedWith(pairLink({ code, name: '' }, address()))).toEqual([401, 'wrongCode'])
  const late = await makeLink(lead, { id: uuid(), name: 'Late' })
  await database().models.deviceLinks.update({ codeUntil: new Date(Date.now() - 1) }, { where: { id: late.id } })
  expect(await refusedWith(pairLink({ code: late.code, name: '' }, address()))).toEqual([401, 'wrongCode'])
  // As somebody types it.
  const typed = await makeLink(lead, { id: uuid(), name: 'Typed' })
  expect((await pairLink({ code: ` ${typed.code.toLowerCase().replace('-', ' ')} `, name: '' }, address())).linkId).toBe(typed.id)
  expect((await listLinks(lead)).links.map(({ name, online }) => [name, online])).toEqual([
    ['Van 2', true],
    ['Typed', true],
  ])
  for (const wrong of [
    undefined,
    'Bearer',
    `${pass}x`,
    pass.replace(/.$/, 'A').replace(/A$/, pass.endsWith('A') ? 'B' : 'A'),
    `Bearer ${uuid()}.${'a'.repeat(43)}`,
  ])
    expect(await refusedWith(linkOfPass(wrong))).toEqual([401, 'noLink'])
  const rival = (await makeCompany()).lead
  expect(await refusedWith(endLink(rival, id, { despiteHomes: true }))).toEqual([404, 'notFound'])
  expect((await listLinks(rival)).links).toEqual([])
  await endLink(lead, id, { despiteHomes: false })
  expect(await refusedWith(linkOfPass(pass))).toEqual([401, 'noLink'])
  void add
})
test('an address may not guess on and on', async () => {
  const from = 'guesser'
  for (let time = 0; time < 20; time++) await refusedWith(pairLink({ code: `WRONG-${10000 + time}`, name: '' }, from))
  expect(await refusedWith(pairLink({ code: 'WRONG-99999', name: '' }, from))).toEqual([429, 'tooManyTries'])
})

test('joined over the link: the code goes to the link alone, its reading is logged, and the record has it once', async () => {
  const { anna, jobId, unitId, code, ask, take, answer, state, link } = await crewAtHome()
  const id = uuid()
  await ask('join', id)
  expect(await ask('join', id)).toEqual({ id })
  expect(await refusedWith(ask('leave', id))).toEqual([409, 'otherQuestion'])
  expect(await refusedWith(ask('join'))).toEqual([409, 'linkBusy'])
  const [task] = await take()
  expect(task).toMatchObject({ id, jobId, unitId, work: { do: 'join', code }, around: { kind: 'switch' } })
  expect(Buffer.from(task!.seal, 'base64')).toHaveLength(32)
  expect(await take()).toEqual([])
  expect(await database().models.secretReads.count({ where: { refId: unitId, personId: anna.personId } })).toBe(1)
  await answer(id, joined)
  await answer(id, joined)
  expect((await state()).units[unitId]!.pairing).toMatchObject({ result: 'joined', attempts: 1, signal: { kind: 'dbm', dbm: -60 } })
  expect((await readJobLink(anna, jobId)).asks).toMatchObject([{ state: 'done', said: 'Joined in 0.9 s.' }])
  expect(JSON.stringify(await readJobLink(anna, jobId))).not.toContain(code)
  expect((await listLinks(anna)).links[0]!.holds).toHaveLength(1)
  expect(await refusedWith(endLink({ ...anna, role: 'lead' }, link.id, { despiteHomes: false }))).toEqual([409, 'holdsHomes'])
})
test('what switches a load is asked of the rule when it is asked and when it is handed over', async () => {
  const { ask, take, answer, power, anna, jobId, state, unitId } = await crewAtHome()
  await ask('join')
  await answer((await take())[0]!.id, joined)
  await power('open')
  expect(await refusedWith(ask('check'))).toEqual([409, 'powerOff'])
  await power('closed')
  await ask('check')
  // Somebody opens the breaker before the link comes for it.
  await power('open')
  expect(await take()).toEqual([])
  expect((await readJobLink(anna, jobId)).asks[0]).toMatchObject({ doing: 'check', state: 'failed' })
  await power('closed')
  const id = uuid()
  await ask('check', id)
  const [task] = await take()
  if (task!.work.do !== 'check') throw new Error('a check')
  const readings = [true, true].map((on) => ({ on, level: null, watts: null }))
  await answer(id, {
    ok: true,
    did: 'check',
    results: task!.work.steps.map(({ checkId }, index) => ({ checkId, reading: readings[index]!, ms: 30 })),
  })
  expect((await readJobLink(anna, jobId)).asks[0]).toMatchObject({ state: 'failed', said: '1 of 2 checks failed: on after 30 ms.' })
  expect(Object.values((await state()).tests)[0]).toMatchObject({
    'link:on': { result: 'pass', measured: 'on after 30 ms' },
    'link:off': { result: 'fail' },
  })
  void unitId
})
test('a fault is a sentence; a link that takes nothing, or does not come back, is given up', async () => {
  const { ask, take, answer, anna, jobId, state, unitId } = await crewAtHome()
  await ask('join')
  await answer((await take())[0]!.id, { ok: false, fault: 'notFound', note: '' })
  expect((await readJobLink(anna, jobId)).asks[0]).toMatchObject({ state: 'failed' })
  expect(linkOf(await state()).faults[unitId]).toMatchObject({ fault: 'notFound' })
  const slow = uuid()
  await ask('join', slow)
  const { models } = database()
  await models.linkAsks.update({ askedAt: new Date(Date.now() - 61_000) }, { where: { id: slow } })
  expect((await readJobLink(anna, jobId)).asks.find((one) => one.id === slow)).toMatchObject({
    state: 'failed',
    said: 'No link took it within a minute.',
  })
  const lost = uuid()
  await ask('join', lost)
  await take()
  await models.linkAsks.update({ takenAt: new Date(Date.now() - 151_000) }, { where: { id: lost } })
  expect((await readJobLink(anna, jobId)).asks.find((one) => one.id === lost)).toMatchObject({
    state: 'failed',
    said: 'The link did not come back from it.',
  })
  // It comes back after all: what the device did is in the record, whatever was said meanwhile.
  await answer(lost, joined)
  expect((await state()).units[unitId]!.pairing).toMatchObject({ result: 'joined' })
})
test('nobody else asks or answers: another crew, another link, another company; without a link it says so', async () => {
  const { ask, take, answer, add, lead, anna, jobId, link } = await crewAtHome()
  expect(await refusedWith(ask('join', uuid(), await add('technician')))).toEqual([403, 'notOnCrew'])
  const rival = (await makeCompany()).lead
  expect(await refusedWith(ask('join', uuid(), rival))).toEqual([404, 'notFound'])
  const second = await paired(lead, 'Second')
  const id = uuid()
  await ask('join', id)
  // The one that was heard of last has it, and no other.
  const holder = (await database().models.linkAsks.findByPk(id, { raw: true }))!.linkId
  const other = holder === second.id ? link : second
  expect((await takeLinkTasks(await other.row(), () => true)).tasks).toEqual([])
  expect(await refusedWith(takeLinkAnswer(await other.row(), { id, answer: joined }))).toEqual([404, 'noSuchTask'])
  const stranger = await paired(rival, 'Rival')
  expect(await refusedWith(takeLinkAnswer(await stranger.row(), { id, answer: joined }))).toEqual([404, 'noSuchTask'])
  for (const { id: one } of [link, second]) await endLink(lead, one, { despiteHomes: true })
  expect((await readJobLink(anna, jobId)).asks[0]).toMatchObject({ state: 'failed', said: 'The link was ended.' })
  expect(await refusedWith(ask('join'))).toEqual([409, 'noLink'])
  void take
  void answer
})
test('a link that is not heard of is not asked; the home stays with the link that holds it', async () => {
  const { ask, take, answer, link, lead, anna, jobId } = await crewAtHome()
  await ask('join')
  await answer((await take())[0]!.id, joined)
  const second = await paired(lead, 'Second')
  expect(await readJobLink(anna, jobId)).toMatchObject({ holds: true, link: { id: link.id } })
  await database().models.deviceLinks.update({ seenAt: new Date(Date.now() - 60_000) }, { where: { id: link.id } })
  expect(await refusedWith(ask('check'))).toEqual([409, 'linkAway'])
  await takeLinkTasks(await link.row(), () => true)
  await ask('leave', uuid(), lead)
  await answer((await take())[0]!.id, { ok: true, did: 'leave', homesLeft: 1 })
  expect(await readJobLink(anna, jobId)).toMatchObject({ holds: false })
  expect((await listLinks(lead)).links.map(({ holds }) => holds.length)).toEqual([0, 0])
  void second
})
test('what a meter read is kept with the question, for those who may see the job; nothing of it is in the record', async () => {
  const { ask, take, answer, anna, jobId, state } = await crewAtHome()
  await ask('join')
  await answer((await take())[0]!.id, joined)
  expect(await refusedWith(ask('trace'))).toEqual([409, 'noMeter'])
  await ask('join', uuid())
  const channels = [{ ...device.channels[0]!, meter: true }]
  await answer((await take())[0]!.id, { ok: true, did: 'join', device: { ...device, channels } })
  await ask('trace')
  const [reading] = await take()
  expect(reading!.work).toMatchObject({ do: 'trace', endpoint: 1 })
  const before = (await state()).seq
  const trace = { at: [1_800_000_000, 1_800_000_003], watts: [61.2, 60.8] }
  await answer(reading!.id, { ok: true, did: 'trace', trace })
  expect((await readJobLink(anna, jobId)).asks[0]).toMatchObject({ state: 'done', said: '2 readings, 61 W at most.', trace })
  expect((await state()).seq).toBe(before)
})
test('the household is let in by a code that lives for a quarter of an hour; nobody stores it in the record', async () => {
  const { ask, take, answer, anna, jobId, state, unitId } = await crewAtHome()
  await ask('join')
  await answer((await take())[0]!.id, joined)
  await ask('open')
  const [opening] = await take()
  expect(opening!.work).toEqual({ do: 'open', seconds: 900 })
  const codes = { code: '21040200991', square: inventedCode(77) }
  await answer(opening!.id, { ok: true, did: 'open', ...codes })
  const shown = async () => (await readJobLink(anna, jobId)).asks.find(({ id }) => id === opening!.id)!
  expect((await shown()).opened).toMatchObject(codes)
  const { models, sequelize } = database()
  const kept = JSON.stringify([await models.linkAsks.findAll({ raw: true }), await sequelize.query('SELECT payload FROM events')])
  for (const code of Object.values(codes)) expect(kept).not.toContain(code)
  await models.linkAsks.update({ until: new Date(Date.now() - 1) }, { where: { id: opening!.id } })
  expect((await shown()).opened).toBeNull()
  await ask('homes')
  const installer = { label: 'Installer', own: true }
  await answer((await take())[0]!.id, { ok: true, did: 'homes', homes: [installer, { label: 'Household', own: false }] })
  expect(linkOf(await state()).units[unitId]!.homes!.list).toHaveLength(2)
  // The device itself refuses to be left alone, unless somebody says so.
  await ask('leave')
  const [leaving] = await take()
  expect(leaving!.work).toEqual({ do: 'leave', gone: false, anyway: false })
  await answer(leaving!.id, { ok: false, fault: 'onlyHome', note: '' })
  expect(linkOf(await state()).units[unitId]).toBeDefined()
  await ask('leave', uuid(), anna, { anyway: true })
  const [again] = await take()
  expect(again!.work).toMatchObject({ anyway: true })
  await answer(again!.id, { ok: true, did: 'leave', homesLeft: 0 })
  expect((await state()).units[unitId]!.pairing).toMatchObject({ result: 'failed' })
})
test('a device that the household has already is joined by the code that its app shows; nonsense is no code', async () => {
  const { ask, take, anna } = await crewAtHome()
  expect(await refusedWith(ask('join', uuid(), anna, { code: '1234' }))).toEqual([422, 'codeUnread'])
  const code = inventedCode(4321)
  await ask('join', uuid(), anna, { code })
  expect((await take())[0]!.work).toEqual({ do: 'join', code })
})
test('the key of a home is thrown away with its last device, by the link or by hand, and made anew', async () => {
  const { ask, take, answer, anna, jobId, unitId, state } = await crewAtHome()
  const { deviceFabrics } = database().models
  const key = async () => (await deviceFabrics.findByPk(jobId, { raw: true }))!.seal
  const join = async () => {
    await ask('join')
    const [task] = await take()
    await answer(task!.id, joined)
    expect(await key()).not.toBe('')
    return task!.seal
  }
  const first = await join()
  await ask('leave')
  await answer((await take())[0]!.id, { ok: true, did: 'leave', homesLeft: 1 })
  expect(await key()).toBe('')
  const second = await join()
  expect(second).not.toBe(first)
  expect(await jobCommand(anna, jobId, { type: 'noteInstallerGone', unitId, how: 'reset as its maker says', reset: true })).toMatchObject({
    status: 'accepted',
  })
  expect(await key()).toBe('')
  expect((await state()).units[unitId]!.pairing).toMatchObject({ result: 'failed' })
  await join()
  // Something is under way: what it makes must not lose its key.
  await ask('homes')
  expect(await jobCommand(anna, jobId, { type: 'noteInstallerGone', unitId, how: 'seen in its app', reset: false })).toMatchObject({
    status: 'accepted',
  })
  expect(await key()).not.toBe('')
})
