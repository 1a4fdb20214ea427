import { jest } from '@jest/globals'
import { homes } from '../../core/protocol'
import { database } from '../database'
import { homeWithDevice } from '../testing/one-device'
import { makeCompany, openWorld, refusedWith, uuid } from '../testing/world'
import { endHomeLink, guestCardPdf, homeFile, makeHomeLink, readHomeCodes, readHomeLink, readHomePage, sendHomeLink } from './home-pages'
import { linkKey } from './links'
import { deliveries } from './messages'

jest.setTimeout(180_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

async function home() {
  const found = await homeWithDevice()
  const { anna, jobId } = found
  const make = async (pin: string | null = '246810', id = uuid()) => {
    const { page } = await makeHomeLink(anna, jobId, { id, months: 12, pin })
    return { page, token: page.link.split('/').at(-1)! }
  }
  return { ...found, make }
}

test('a link is made once however often it is asked for; a new one ends the one before', async () => {
  const { anna, jobId, make } = await home()
  expect(await readHomeLink(anna, jobId)).toMatchObject({ page: null })
  const id = uuid()
  const [first, again] = [await make('246810', id), await make('000000', id)]
  expect(again.token).toBe(first.token)
  // The second sending of the same changed no PIN.
  expect((await readHomeCodes(first.token, '246810')).codes).toHaveLength(1)
  const second = await make()
  expect(second.token).not.toBe(first.token)
  expect(await refusedWith(readHomePage(first.token))).toEqual([404, 'noHome'])
  expect(await readHomePage(second.token)).toMatchObject({ hasPin: true, handedOverAt: null })
  expect((await readHomeLink(anna, jobId)).page).toMatchObject({ codesRead: 0, openedAt: expect.any(String) })
  await endHomeLink(anna, jobId)
  expect(await refusedWith(readHomePage(second.token))).toEqual([404, 'linkExpired'])
  expect(await readHomeLink(anna, jobId)).toMatchObject({ page: null })
  // Made anew after it was closed: the old links stay shut.
  const third = await make()
  expect(await refusedWith(readHomePage(second.token))).toEqual([404, 'noHome'])
  expect(await readHomePage(third.token)).toMatchObject({ hasPin: true })
})

test('it ends with its day, and keys of something else open nothing', async () => {
  const { jobId, make } = await home()
  const { token, page } = await make()
  const after = new Date(Date.parse(page.until) + 1000)
  for (const ask of [() => readHomePage(token, after), () => homeFile(token, 'html', after), () => readHomeCodes(token, '246810', after)])
    expect(await refusedWith(ask())).toEqual([404, 'linkExpired'])
  for (const wrong of [
    linkKey('visit', jobId, 1),
    linkKey('home', uuid(), 1),
    `${token}A`,
    token.replace(/.$/, (last) => (last === 'A' ? 'B' : 'A')),
    'x'.repeat(46),
  ])
    expect(await refusedWith(readHomePage(wrong))).toEqual([404, 'noHome'])
})

test('codes only with the household’s PIN: tries are counted before they are looked at, readings too, and whoever chose the PIN is on record', async () => {
  const { anna, jobId, code, make } = await home()
  const without = await make(null)
  expect(await refusedWith(readHomeCodes(without.token, ''))).toEqual([409, 'noPin'])
  expect((await readHomePage(without.token)).hasPin).toBe(false)
  expect(await database().models.secretReads.count({ where: { refId: jobId, what: 'homePage' } })).toBe(0)
  const { token } = await make()
  expect(await database().models.secretReads.count({ where: { refId: jobId, what: 'homePage', personId: anna.personId } })).toBe(1)
  expect((await readHomeCodes(token, '246810')).codes).toMatchObject([{ serial: 'SN-4711', code }])
  expect((await readHomeLink(anna, jobId)).page).toMatchObject({ codesRead: 1 })
  const guesses = await Promise.all(Array.from({ length: 20 }, (_, index) => refusedWith(readHomeCodes(token, String(100_000 + index)))))
  const answered = (status: number) => guesses.filter((guess) => (guess as [number, string])[0] === status).length
  expect(answered(403)).toBeLessThanOrEqual(5)
  expect(answered(429)).toBeGreaterThanOrEqual(15)
  // The right one rests as well, until there is a new page.
  expect(await refusedWith(readHomeCodes(token, '246810'))).toEqual([429, 'pinLocked'])
  const fresh = await make('135791')
  expect((await readHomeCodes(fresh.token, '135791')).codes).toHaveLength(1)
  const [row] = await database().models.homePages.findAll({ where: { jobId }, raw: true })
  expect(row!.pinHash).toMatch(/^scrypt:/)
})

test('neither page nor file holds a code, a note of the crew, a door code or another home', async () => {
  const { jobId, code, make } = await home()
  const { token } = await make()
  const [page, html] = [JSON.stringify(await readHomePage(token)), String(await homeFile(token, 'html'))]
  for (const text of [page, html]) {
    for (const secret of [code, code.slice(-6), 'sealed', jobId]) expect(text).not.toContain(secret)
    expect(text).toContain('SN-4711')
    // In the words of its supply.
    expect(text).not.toMatch(/\{\w+\}/)
  }
  expect(html).toContain("default-src 'none'")
  for (const as of ['card', 'pdf'] as const) expect(((await homeFile(token, as)) as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
})

test('another company has no card and makes no page', async () => {
  const { jobId } = await home()
  const rival = (await makeCompany()).lead
  expect(await refusedWith(guestCardPdf(rival, jobId))).toEqual([404, 'notFound'])
  expect(await refusedWith(makeHomeLink(rival, jobId, { id: uuid(), months: 12, pin: null }))).toEqual([404, 'notFound'])
  expect(await refusedWith(readHomeLink(rival, jobId))).toEqual([404, 'notFound'])
  expect(await refusedWith(endHomeLink(rival, jobId))).toEqual([404, 'notFound'])
})

test('the link is sent once, to whom the record knows, never beside its PIN, and only while there is a page', async () => {
  const { anna, jobId, make } = await home()
  const letter = (body = 'What is where in your home: the link you were given.') => ({ id: uuid(), channel: 'mail' as const, body })
  expect(await refusedWith(sendHomeLink(anna, jobId, letter()))).toEqual([409, 'noHome'])
  await make('482615')
  const { models } = database()
  const job = (await models.jobs.findByPk(jobId))!
  await models.customers.update({ email: '', phone: '' }, { where: { id: job.customerId } })
  expect(await refusedWith(sendHomeLink(anna, jobId, letter()))).toEqual([409, 'noAddress'])
  await models.customers.update({ email: 'home@example.org' }, { where: { id: job.customerId } })
  for (const body of [
    'Your page, PIN 482615, is here.',
    'x482615x and so on',
    'PIN:\n482615 ok',
    'It is 482 615, call 555 0199 or 555 0198',
  ])
    expect(await refusedWith(sendHomeLink(anna, jobId, letter(body)))).toEqual([422, 'pinInside'])
  expect(await refusedWith(sendHomeLink(anna, jobId, letter('The page: https://example.org/home/of-before')))).toEqual([409, 'linkChanged'])
  const once = letter('Call 5550199 or 482616. What is where: the link.')
  const [first, again] = await Promise.all([sendHomeLink(anna, jobId, once), sendHomeLink(anna, jobId, once)])
  expect([first.id, again.id]).toEqual([once.id, once.id])
  expect(first).toMatchObject({
    visitId: null,
    purpose: 'home',
    recipient: 'home@example.org',
    customer: (await readHomeLink(anna, jobId)).to.customer,
  })
  await deliveries()
  expect((await readHomeLink(anna, jobId)).sent).toMatchObject([{ id: once.id, state: 'sent' }])
  expect(await models.messages.count({ where: { jobId } })).toBe(1)
  const other = await home()
  await other.make()
  await models.customers.update({ email: 'other@example.org' }, { where: {} })
  expect(await refusedWith(sendHomeLink(other.anna, other.jobId, once))).toEqual([409, 'idInUse'])
  expect(await refusedWith(sendHomeLink((await makeCompany()).lead, jobId, letter()))).toEqual([404, 'notFound'])
  await endHomeLink(anna, jobId)
  expect(await refusedWith(sendHomeLink(anna, jobId, letter()))).toEqual([409, 'noHome'])
})

test('a PIN that everybody tries first is none', () => {
  const accepted = (pin: string) => homes.makeHomeLink.body!.safeParse({ id: uuid(), months: 12, pin }).success
  expect(['111111', '123456', '987654', '12345', '1234567890123', '12a456'].filter(accepted)).toEqual([])
  expect(['482615', '112233', '246810'].filter((pin) => !accepted(pin))).toEqual([])
})
