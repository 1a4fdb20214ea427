import { randomBytes, scryptSync } from 'node:crypto'
import { jest } from '@jest/globals'
import { database } from '../database'
import { makeCompany, openWorld, refusedWith, uuid } from '../testing/world'
import { viewerOfSession, type Viewer } from './access'
import { changeOwnPassword, closeSession, endOtherSessions, endOwnSession, listSessions, logIn, openSession } from './sessions'
import { triedFor } from './own-password'
import { checkPin, setPin } from './pins'
import { forgetTries } from './throttle'
import { changePerson } from './people'
import { hashPassword, passwordMatches } from './secrets'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const phone = 'Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/130.0.0.0 Mobile Safari/537.36'
async function loggedIn(viewer: Viewer, agent = phone) {
  const person = (await database().models.people.findByPk(viewer.personId))!
  const sessionId = await openSession(person, agent)
  const still = async () => (await viewerOfSession({ personId: viewer.personId, epoch: person.sessionEpoch, sessionId }))?.personId ?? null
  return { sessionId, still }
}
const people = async () => {
  const { lead, add } = await makeCompany()
  return { lead, anna: await add('technician'), bo: await add('technician') }
}

test('a login ends where it is ended, and nowhere else; a cookie that was copied is worth nothing after it', async () => {
  const { anna } = await people()
  const [one, two] = [await loggedIn(anna), await loggedIn(anna, '')]
  expect([await one.still(), await two.still()]).toEqual([anna.personId, anna.personId])
  expect((await listSessions(anna, two.sessionId)).sessions.map(({ device, here }) => [device, here]).sort()).toEqual([
    ['Chrome, Android', false],
    ['unknown device', true],
  ])
  await closeSession(anna.personId, one.sessionId)
  await closeSession(anna.personId, one.sessionId)
  expect([await one.still(), await two.still()]).toEqual([null, anna.personId])
})
test('everywhere but here; of nobody else', async () => {
  const { anna, bo } = await people()
  const [here, there, his] = [await loggedIn(anna), await loggedIn(anna), await loggedIn(bo)]
  expect(await refusedWith(endOwnSession(anna, his.sessionId))).toEqual([404, 'notFound'])
  expect(await refusedWith(endOwnSession(anna, uuid()))).toEqual([404, 'notFound'])
  await endOtherSessions(anna, here.sessionId)
  expect([await here.still(), await there.still(), await his.still()]).toEqual([anna.personId, null, bo.personId])
  // A session of one is none of another, whatever a cookie says.
  expect(await viewerOfSession({ personId: bo.personId, epoch: 0, sessionId: here.sessionId })).toBeNull()
})
test('another password ends every other login; the old one is asked for, and guessing it has an end', async () => {
  const { anna } = await people()
  const row = (await database().models.people.findByPk(anna.personId))!
  await row.update({ passwordHash: await hashPassword('the old password') })
  const [here, there] = [await loggedIn(anna), await loggedIn(anna)]
  const change = (password: string) => changeOwnPassword(anna, { password, next: 'quite another one' }, here.sessionId)
  expect(await refusedWith(change('a guess'))).toEqual([403, 'wrongPassword'])
  await change('the old password')
  expect([await here.still(), await there.still()]).toEqual([anna.personId, null])
  expect((await logIn({ login: row.login, password: 'quite another one' }, { address: 'here', knows: () => null })).id).toBe(anna.personId)
  // Many guesses at once are no more than one after the other.
  const guesses = await Promise.all(Array.from({ length: 20 }, () => refusedWith(change('a guess'))))
  expect(guesses.filter((one) => JSON.stringify(one) === '[429,"tooManyTries"]')).toHaveLength(12)
})
test('wrong passwords are counted for their owner, whatever got right after them, and told at once', async () => {
  const { anna, bo } = await people()
  const row = (await database().models.people.findByPk(anna.personId))!
  await row.update({ passwordHash: await hashPassword('the old password') })
  const told = () => database().models.feedEntries.count({ where: { topic: 'sessions', streamId: anna.personId } })
  const stranger = { address: uuid(), knows: () => null }
  const before = await told()
  for (let guess = 0; guess < 4; guess++)
    expect(await refusedWith(logIn({ login: row.login, password: 'x' }, stranger))).toEqual([401, 'wrongLogin'])
  expect(await told()).toBe(before + 1)
  await logIn({ login: row.login, password: 'the old password' }, stranger)
  expect(await refusedWith(setPin(anna, { password: 'y', pin: '2468' }))).toEqual([403, 'wrongPassword'])
  expect(await refusedWith(changeOwnPassword(anna, { password: 'z', next: 'quite another one' }, null))).toEqual([403, 'wrongPassword'])
  expect(await triedFor(anna.personId)).toEqual({ passwords: 6, pins: 0 })
  expect(await told()).toBe(before + 2)
  // A login that nobody has is nobody’s to be told of.
  await refusedWith(logIn({ login: uuid(), password: 'x' }, stranger))
  expect(await triedFor(bo.personId)).toEqual({ passwords: 0, pins: 0 })
  await forgetTries('login', row.login)
})
test('a hash of before still lets in, and costs what hashes cost now from then on; a PIN likewise', async () => {
  const { anna } = await people()
  const row = (await database().models.people.findByPk(anna.personId))!
  // As the program of before made them: scrypt of RFC 7914, N = 2^14, r = 8, p = 1, not said in the hash.
  const old = (secret: string) => {
    const salt = randomBytes(16)
    return `scrypt:${salt.toString('base64url')}:${scryptSync(secret, salt, 64, { N: 16384, r: 8, p: 1 }).toString('base64url')}`
  }
  await row.update({ passwordHash: old('the old password'), pinHash: old('2468') })
  const before = process.env.CIRCUITRY_SCRYPT
  delete process.env.CIRCUITRY_SCRYPT
  try {
    const stranger = { address: uuid(), knows: () => null }
    expect(await refusedWith(logIn({ login: row.login, password: 'the old passwort' }, stranger))).toEqual([401, 'wrongLogin'])
    await row.reload()
    expect(row.passwordHash).toMatch(/^scrypt:[\w-]{22}:/)
    await logIn({ login: row.login, password: 'the old password' }, stranger)
    await checkPin(anna.companyId, anna.personId, '2468')
    await row.reload()
    expect([row.passwordHash, row.pinHash].map((hash) => hash!.split(':')[1])).toEqual(['ln=15,r=8,p=3', 'ln=15,r=8,p=3'])
    expect((await logIn({ login: row.login, password: 'the old password' }, stranger)).id).toBe(anna.personId)
    // What says nothing sensible of its cost is no hash, whatever it asks for.
    for (const odd of ['scrypt:ln=40,r=8,p=1:AAAA:AAAA', 'scrypt:ln=,r=,p=:AAAA:AAAA', 'scrypt::', 'plain:the old password'])
      expect(await passwordMatches('the old password', odd)).toBe(false)
  } finally {
    if (before !== undefined) process.env.CIRCUITRY_SCRYPT = before
  }
})
test('a password that is easy to guess is refused with why: as a first one, one’s own next, and by a lead', async () => {
  const { lead, anna } = await people()
  const row = (await database().models.people.findByPk(anna.personId))!
  await row.update({ passwordHash: await hashPassword('the old password') })
  for (const next of ['password123!', 'qwertyuiop', 'aaaaaaaaaaaa', `${row.login}2026`])
    expect(await refusedWith(changeOwnPassword(anna, { password: 'the old password', next }, null))).toEqual([422, 'weakPassword'])
  expect(await refusedWith(changePerson(lead, anna.personId, { password: 'letmein2026' }))).toEqual([422, 'weakPassword'])
  // Long ones take no time.
  await changeOwnPassword(anna, { password: 'the old password', next: 'kelp and rope '.repeat(14) }, null)
})
test('a closed account, another role: every login of it ends', async () => {
  const { lead, anna } = await people()
  const one = await loggedIn(anna)
  await changePerson(lead, anna.personId, { active: false })
  expect(await one.still()).toBeNull()
})
test('a login that was not used for two weeks is gone with the next', async () => {
  const { anna } = await people()
  const old = await loggedIn(anna)
  await database().models.sessions.update({ seenAt: new Date(Date.now() - 15 * 86_400_000) }, { where: { id: old.sessionId } })
  await loggedIn(anna)
  expect(await old.still()).toBeNull()
})
