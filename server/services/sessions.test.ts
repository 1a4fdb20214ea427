import { jest } from '@jest/globals'
import { database } from '../database'
import { makeCompany, openWorld, refusedWith, uuid } from '../testing/world'
import { viewerOfSession, type Viewer } from './access'
import { changeOwnPassword, closeSession, endOtherSessions, endOwnSession, listSessions, logIn, openSession, triedFor } from './sessions'
import { setPin } from './pins'
import { forgetTries } from './throttle'
import { changePerson } from './people'
import { hashPassword } from './secrets'

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
