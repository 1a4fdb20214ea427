import { jest } from '@jest/globals'
import type { PlannedVisit } from '../../core/protocol'
import { testFile } from '../../core/testing/scenario'
import type { Letter, Sending } from '../ports/messages'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import { book, times, tomorrow } from '../testing/visits'
import { changeContact, deliver, deliveries, listMessages, readContact, retryMessage, sendMessage } from './messages'
import { idIn, linkKey, opens } from './links'
import { remind } from './reminders'
import { readState } from './streams'
import { chooseTime, readVisitPage, tickPrepared } from './visit-pages'
import { wayTo } from './way'

jest.setTimeout(180_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(async () => {
  await deliveries()
  await close()
})

const tokenOf = (link: string) => link.split('/').at(-1)!
/** A visit tomorrow whose customer can be reached. */
async function booked(contact = { phone: '555 0142', email: '' }) {
  const { lead, add } = await makeCompany()
  const [anna, ben] = [await add('technician'), await add('technician')]
  const { jobId } = await open(lead, { ...testFile, site: { ...testFile.site, address: '3 Ferry Stairs, Port Sallow' } } as never)
  const visitId = await book(lead, jobId, [anna.personId], [8, 10])
  await changeContact(anna, visitId, contact)
  const letter = (over: object = {}) => ({
    ...{ id: uuid(), purpose: 'late' as const, channel: 'sms' as const, body: 'We come later than we said.', window: null, offers: [] },
    ...over,
  })
  const moved = (from: number, to: number): PlannedVisit => ({
    ...{ jobId, visitId, makes: null, personIds: [anna.personId], was: { startsAt: times(8, 10).startsAt, personIds: [anna.personId] } },
    ...times(from, to),
  })
  return { lead, add, anna, ben, jobId, visitId, letter, moved, page: tokenOf((await readContact(lead, visitId)).link) }
}
const visitOf = async (jobId: string, visitId: string) => (await readState('job', jobId)).visits[visitId]!

test('a crew that runs late says so: sent once, promised in the same breath, and on the list', async () => {
  const { lead, anna, ben, jobId, visitId, letter } = await booked()
  const { windowFrom, windowTo } = times(10, 12)
  const given = letter({ window: { windowFrom, windowTo } })
  expect(await refusedWith(sendMessage(ben, visitId, given))).toEqual([403, 'forbidden'])
  expect(await refusedWith(sendMessage(anna, visitId, letter({ purpose: 'windows' })))).toEqual([403, 'forbidden'])
  const first = await sendMessage(anna, visitId, given)
  expect(first).toMatchObject({ recipient: '555 0142', purpose: 'late', siteName: testFile.site.name })
  // The answer was lost: the same again is the same message.
  expect((await sendMessage(anna, visitId, given)).id).toBe(first.id)
  await deliveries()
  expect((await listMessages(lead, lead.branchId)).messages).toMatchObject([{ id: first.id, state: 'sent', madeBy: anna.name }])
  expect(Date.parse((await visitOf(jobId, visitId)).windowTo)).toBe(Date.parse(windowTo))
  const { lead: rival } = await makeCompany()
  expect(await refusedWith(sendMessage(rival, visitId, letter()))).toEqual([404, 'notFound'])
  expect(await refusedWith(readContact(rival, visitId))).toEqual([404, 'notFound'])
  expect((await listMessages(rival, undefined)).messages).toEqual([])
})

test('a promise that cannot be made sends nothing; nor does a customer without a number', async () => {
  const { lead, anna, jobId, visitId, letter } = await booked()
  const before = await visitOf(jobId, visitId)
  const over = { windowFrom: '2001-01-01T08:00:00.000Z', windowTo: '2001-01-01T09:00:00.000Z' }
  expect(await refusedWith(sendMessage(anna, visitId, letter({ window: over })))).toEqual([409, 'timesOdd'])
  expect(await refusedWith(sendMessage(anna, visitId, letter({ channel: 'mail' })))).toEqual([409, 'noAddress'])
  expect((await listMessages(lead, undefined)).messages).toEqual([])
  expect(await visitOf(jobId, visitId)).toEqual(before)
})

test('what the service refuses is told and sent again to a better number; what it cannot take now waits', async () => {
  const { lead, anna, visitId, letter } = await booked({ phone: 'ask at the bakery', email: '' })
  const { id } = await sendMessage(anna, visitId, letter())
  await deliveries()
  const line = async () => (await listMessages(lead, undefined)).messages[0]!
  expect(await line()).toMatchObject({ id, state: 'failed', answer: '“ask at the bakery” is no telephone number.' })
  expect((await listMessages(lead, undefined, 'failed')).messages.map((one) => one.id)).toEqual([id])
  expect((await listMessages(lead, undefined, 'sent')).messages).toEqual([])
  await retryMessage(lead, id, '555 0143')
  await deliveries()
  expect(await line()).toMatchObject({ state: 'sent', recipient: '555 0143' })
  expect(await refusedWith(retryMessage(lead, id, '555 0144'))).toEqual([409, 'notFailed'])
  const { lead: rival } = await makeCompany()
  expect(await refusedWith(retryMessage(rival, id, '555 0144'))).toEqual([404, 'notFound'])

  await database().models.messages.update({ state: 'waiting' }, { where: { id } })
  const away = async (): Promise<Sending> => ({ is: 'later', reason: 'The service does not answer.' })
  expect(await deliver(away)).toBe(0)
  expect(await line()).toMatchObject({ state: 'waiting', answer: 'The service does not answer.' })
  // Two servers at once: one of them hands it over.
  const handed: Letter[] = []
  const take = async (letter: Letter): Promise<Sending> => {
    await new Promise((go) => setTimeout(go, 50))
    handed.push(letter)
    return { is: 'sent', reference: 'ok' }
  }
  await Promise.all([deliver(take), deliver(take), deliver(take)])
  expect(handed.map((one) => one.id)).toEqual([id])
})

test('the customer’s page: opened by its link alone, ticked, and gone three days after', async () => {
  const { lead, anna, jobId, visitId, page, letter, moved } = await booked()
  expect(await readVisitPage(page)).toMatchObject({ status: 'planned', kind: 'install', crew: [anna.name.split(' ')[0]], offers: [] })
  await tickPrepared(page, ['adult', 'wifi'])
  await tickPrepared(page, ['wifi', 'router'])
  const ready = (await readContact(lead, visitId)).prepared.filter(({ at }) => at).map(({ id }) => id)
  expect(ready).toEqual(['wifi', 'router'])
  // The office offers other times while the customer ticks: neither loses what the other one wrote.
  for (let round = 0; round < 6; round++)
    await Promise.all([
      tickPrepared(page, round % 2 ? ['wifi'] : ['adult', 'wifi']),
      sendMessage(lead, visitId, letter({ purpose: 'windows', offers: [{ id: uuid(), visits: [moved(11, 13)] }] })),
    ])
  expect((await readVisitPage(page)).offers).toHaveLength(1)
  expect((await readVisitPage(page)).prepare.filter(({ done }) => done).map(({ id }) => id)).toEqual(['wifi'])
  await jobCommand(anna, jobId, { type: 'setOff', visitId, expectedAt: times(8, 10).startsAt })
  expect(await readVisitPage(page)).toMatchObject({ status: 'onTheWay', expectedAt: new Date(times(8, 10).startsAt).toISOString() })
  const later = tomorrow.plus({ days: 4 }).toJSDate()
  expect(await refusedWith(readVisitPage(page, later))).toEqual([404, 'linkExpired'])
  // Nobody makes a key: one letter changed, another visit’s id under this mark, a calendar’s key.
  const last = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_'.split('').filter((one) => !page.endsWith(one))
  const bytes = Buffer.from(page, 'base64url')
  bytes[3]! ^= 1
  for (const key of [
    ...last.map((one) => page.slice(0, -1) + one),
    bytes.toString('base64url'),
    linkKey('calendar', visitId),
    'x'.repeat(46),
    '',
  ]) {
    expect(await refusedWith(readVisitPage(key))).toEqual([404, 'noVisit'])
    expect(await refusedWith(tickPrepared(key, ['wifi']))).toEqual([404, 'noVisit'])
    expect(await refusedWith(chooseTime(key, uuid()))).toEqual([404, 'noVisit'])
  }
  expect(idIn(page)).toBe(visitId)
  expect(opens('visit', linkKey('visit', visitId, 1), visitId)).toBe(false)
})

test('a customer chooses of the times that were offered: moved once, told as theirs; a time that is taken is not given', async () => {
  const { lead, add, anna, jobId, visitId, letter, moved, page } = await booked()
  const [early, late] = [
    { id: uuid(), visits: [moved(11, 13)] },
    { id: uuid(), visits: [moved(14, 16)] },
  ]
  const offers = letter({ purpose: 'windows', offers: [early, late] })
  expect(await refusedWith(sendMessage(anna, visitId, offers))).toEqual([403, 'forbidden'])
  expect(
    await refusedWith(sendMessage(lead, visitId, letter({ offers: [{ id: uuid(), visits: [{ ...moved(11, 13), visitId: uuid() }] }] }))),
  ).toEqual([422, 'offerOdd'])
  await sendMessage(lead, visitId, offers)
  const shown = await readVisitPage(page)
  expect(shown.offers.map(({ id }) => id)).toEqual([early.id, late.id])
  expect(await refusedWith(chooseTime(page, uuid()))).toEqual([409, 'timeGone'])

  // Anna is booked elsewhere by then: the time is gone, and nothing has changed.
  const second = await open(lead, {
    ...testFile,
    site: { ...testFile.site, name: 'Second', address: '9 Withy Bank, Port Sallow' },
  } as never)
  await book(lead, second.jobId, [anna.personId], [11, 12])
  expect(await refusedWith(chooseTime(page, early.id))).toEqual([409, 'timeGone'])
  expect(Date.parse((await visitOf(jobId, visitId)).startsAt)).toBe(Date.parse(times(8, 10).startsAt))

  // Two taps at once, and a third after it: one move.
  await Promise.all([chooseTime(page, late.id), chooseTime(page, late.id)])
  await chooseTime(page, late.id)
  expect(Date.parse((await visitOf(jobId, visitId)).startsAt)).toBe(Date.parse(times(14, 16).startsAt))
  const moves = await database().models.events.findAll({ where: { streamId: jobId, type: 'visitMoved' }, raw: true })
  expect(moves.map(({ payload }) => JSON.parse(String(payload)).byCustomer)).toEqual([true])
  expect(await readVisitPage(page)).toMatchObject({ chosen: true })
  expect((await readContact(lead, visitId)).chosenAt).not.toBeNull()

  // Who is on the way is not sent elsewhere by a tap, nor an hour before.
  const near = new Date(Date.parse(times(14, 16).startsAt) - 30 * 60_000)
  expect((await readVisitPage(page, near)).offers).toEqual([])
  // Nor is anybody sent to a page that offers nothing.
  const again = { ...offers, id: uuid(), offers: [{ id: uuid(), visits: early.visits }] }
  expect(await refusedWith(sendMessage(lead, visitId, again, near))).toEqual([409, 'tooLate'])
  await jobCommand(anna, jobId, { type: 'setOff', visitId, expectedAt: null })
  expect(await refusedWith(chooseTime(page, early.id))).toEqual([409, 'tooLate'])
  void add
})

test('nobody moves a visit in the customer’s name', async () => {
  const { lead, anna, jobId, visitId } = await booked()
  const command = { type: 'moveVisitForCustomer' as const, visitId, personIds: [anna.personId], alsoBooked: false, ...times(11, 13) }
  expect(await refusedWith(jobCommand(lead, jobId, command))).toEqual([403, 'notByHand'])
})

test('the way: from the store, from where one is once the work there is done, and nowhere without a road', async () => {
  const { lead, anna, jobId, visitId } = await booked()
  const now = tomorrow.plus({ hours: 7 }).toJSDate()
  // Nobody said where the store is.
  expect(await wayTo(anna, visitId, now)).toMatchObject({ from: null, arriveAt: null, legs: [] })
  const branch = (await database().models.branches.findByPk(lead.branchId))!
  await branch.update({ settings: { ...(branch.settings as object), day: { storeAddress: '20 Ropewalk, Port Sallow' } } })
  const way = await wayTo(anna, visitId, now)
  expect(way.from).toBe('the store')
  expect(way.leaveAt).toBe(now.toISOString())
  expect(Date.parse(way.arriveAt!)).toBeGreaterThan(now.getTime())
  expect(Date.parse(way.fourAt!)).toBeGreaterThan(Date.parse(way.arriveAt!))
  expect(way.legs.reduce((sum, { metres }) => sum + metres, 0)).toBeCloseTo(way.metres, 0)
  expect(way.legs.at(-1)!.name).toBe('Ferry Stairs')
  // The office asks for the crew.
  expect(await wayTo(lead, visitId, now)).toEqual(way)

  // At work at another home: the way begins there, and not before the work is done.
  const second = await open(lead, {
    ...testFile,
    site: { ...testFile.site, name: 'Second', address: '9 Withy Bank, Port Sallow' },
  } as never)
  const other = await book(lead, second.jobId, [anna.personId], [6, 7], { alsoBooked: true })
  await jobCommand(anna, second.jobId, { type: 'arrive', visitId: other })
  const soon = new Date()
  const busy = await wayTo(anna, visitId, soon)
  expect(busy.from).toBe('Second')
  expect(Date.parse(busy.leaveAt)).toBeGreaterThan(soon.getTime() + 10 * 60_000)
  void jobId
})

test('who is expected on a day is reminded once, anew when it was moved; who cannot be reached is named', async () => {
  const { lead, anna, jobId, visitId } = await booked()
  const second = await open(lead, {
    ...testFile,
    site: { ...testFile.site, name: 'Second', address: '9 Withy Bank, Port Sallow' },
  } as never)
  await book(lead, second.jobId, [anna.personId], [11, 12], { kind: 'survey' })
  await database().models.customers.update(
    { phone: '', email: '' },
    { where: { id: (await database().models.jobs.findByPk(second.jobId))!.customerId } },
  )
  const day = { branchId: lead.branchId, date: tomorrow.toISODate()!, checkOnly: false }
  const origin = 'https://example.test'
  expect(await remind(lead, { ...day, checkOnly: true }, origin)).toEqual({ reminded: 1, already: 0, unreachable: ['Second'] })
  expect((await listMessages(lead, undefined)).messages).toEqual([])
  await remind(lead, day, origin)
  expect(await remind(lead, day, origin)).toEqual({ reminded: 0, already: 1, unreachable: ['Second'] })
  await deliveries()
  const [message] = (await listMessages(lead, undefined)).messages
  expect(message).toMatchObject({ purpose: 'reminder', state: 'sent', visitId })
  expect(message!.body).toContain('https://example.test/visit/')
  await jobCommand(lead, jobId, { type: 'moveVisit', visitId, alsoBooked: false, personIds: [anna.personId], ...times(14, 16) })
  expect(await remind(lead, day, origin)).toMatchObject({ reminded: 1, already: 0 })
  expect(await remind(lead, { ...day, date: '2020-01-01' }, origin)).toEqual({ reminded: 0, already: 0, unreachable: [] })
  const { lead: rival } = await makeCompany()
  expect(await refusedWith(remind(rival, day, origin))).toEqual([404, 'notFound'])
})
