import { jest } from '@jest/globals'
import { Secret, TOTP } from 'otpauth'
import { database } from '../database'
import { makeCompany, openWorld, refusedWith, uuid } from '../testing/world'
import { letLeadIn } from './let-in'
import { triedFor } from './own-password'
import { changePerson, listPeople } from './people'
import { beginFactor, confirmFactor, endFactor, hasFactor } from './second-factor'
import { hashPassword } from './secrets'
import { logIn } from './sessions'
import { triesOf } from './throttle'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const password = 'the old password'
async function given() {
  const { lead, add } = await makeCompany()
  const row = (await database().models.people.findByPk(lead.personId))!
  await row.update({ passwordHash: await hashPassword(password) })
  const enter = (code?: string, secret = password) =>
    logIn({ login: row.login, password: secret, code }, { address: row.id, knows: () => null })
  return { lead, row, enter, add }
}
/** What an app shows, `steps` of half a minute from now. */
const shown = (secret: string, steps = 0) =>
  new TOTP({ secret: Secret.fromBase32(secret), digits: 6, period: 30 }).generate({ timestamp: Date.now() + steps * 30_000 })

test('the codes are those of RFC 6238, appendix B (SHA-1, the last six digits of its eight)', () => {
  const totp = new TOTP({ secret: Secret.fromLatin1('12345678901234567890'), digits: 6, period: 30, algorithm: 'SHA1' })
  for (const [seconds, code] of [
    [59, '287082'],
    [1_111_111_109, '081804'],
    [1_111_111_111, '050471'],
    [1_234_567_890, '005924'],
    [2_000_000_000, '279037'],
    [20_000_000_000, '353130'],
  ] as const)
    expect([seconds, totp.generate({ timestamp: seconds * 1000 })]).toEqual([seconds, code])
})
test('on once a code of it was right; then each login asks for one that is right, and takes each once', async () => {
  const { lead, row, enter } = await given()
  expect(await refusedWith(beginFactor(lead, { password: 'not it' }))).toEqual([403, 'wrongPassword'])
  const { secret, uri } = await beginFactor(lead, { password })
  expect(uri).toContain(`secret=${secret}`)
  // Not before it was tried: a square that nobody scanned locks nobody out.
  expect([await hasFactor(row.id), (await enter()).id]).toEqual([false, row.id])
  expect(await refusedWith(confirmFactor(lead, { code: '000000' === shown(secret) ? '000001' : '000000' }))).toEqual([422, 'wrongCode'])
  await confirmFactor(lead, { code: shown(secret, -1) })
  expect((await listPeople(lead)).find(({ id }) => id === row.id)!.hasFactor).toBe(true)
  expect(await refusedWith(enter())).toEqual([401, 'codeNeeded'])
  expect(await refusedWith(enter(undefined, 'not it'))).toEqual([401, 'wrongLogin'])
  // The one that switched it on is used up; the next is taken, in two groups, once.
  expect(await refusedWith(enter(shown(secret, -1)))).toEqual([401, 'wrongCode'])
  const code = shown(secret)
  expect((await enter(`${code.slice(0, 3)} ${code.slice(3)}`)).id).toBe(row.id)
  expect(await refusedWith(enter(code))).toEqual([401, 'wrongCode'])
  expect(await refusedWith(enter(shown(secret, 5)))).toEqual([401, 'wrongCode'])
  expect(JSON.stringify(await database().models.secondFactors.findByPk(row.id))).not.toContain(secret)
  expect(await refusedWith(beginFactor(lead, { password }))).toEqual([409, 'factorOn'])
  expect(await refusedWith(endFactor(lead, { password, code }))).toEqual([422, 'wrongCode'])
  await endFactor(lead, { password, code: shown(secret, 1) })
  expect((await enter()).id).toBe(row.id)
})
test('the same code twice at once lets in once; asking for it is no wrong try, guessing is', async () => {
  const { lead, row, enter } = await given()
  const { secret } = await beginFactor(lead, { password })
  await confirmFactor(lead, { code: shown(secret, -1) })
  for (let count = 0; count < 12; count++) expect(await refusedWith(enter())).toEqual([401, 'codeNeeded'])
  expect(await triesOf('login', row.login)).toBe(0)
  const code = shown(secret)
  const both = await Promise.allSettled([enter(code), enter(code)])
  expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1)
  const guesses = await Promise.all(Array.from({ length: 20 }, (_, index) => refusedWith(enter(String(100_000 + index)))))
  expect(guesses.filter((one) => JSON.stringify(one) === '[429,"tooManyTries"]').length).toBeGreaterThanOrEqual(11)
  // Whoever has the password and guesses at codes is told of to its owner.
  expect((await triedFor(row.id)).passwords).toBeGreaterThanOrEqual(7)
})
test('a device that is lost: a lead takes it away, or whoever keeps the host; nobody else, and it stands in the record', async () => {
  const { lead, row, enter } = await given()
  const on = async () => {
    const { secret } = await beginFactor(lead, { password })
    await confirmFactor(lead, { code: shown(secret) })
  }
  await on()
  const other = await makeCompany()
  expect(await refusedWith(changePerson(other.lead, row.id, { hasFactor: false }))).toEqual([404, 'notFound'])
  expect(await hasFactor(row.id)).toBe(true)
  await changePerson(lead, row.id, { hasFactor: false })
  expect((await enter()).id).toBe(row.id)
  const [line] = await database().models.accessRecord.findAll({ where: { refId: row.id }, order: [['id', 'DESC']], raw: true })
  expect(JSON.stringify(line!.changes)).toContain('hasFactor')
  await on()
  await letLeadIn(row.login, 'drawn-for-the-lead')
  expect((await enter(undefined, 'drawn-for-the-lead')).id).toBe(row.id)
  expect(uuid()).not.toBe(row.id)
})
