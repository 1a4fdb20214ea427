import Bowser from 'bowser'
import { Op } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { people, AnswerOf, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import type { Viewer } from './access'
import { leaveLine } from './access-record'
import { ApiError, notFound } from './errors'
import { announce } from './feed'
import { transacted } from './locked-job'
import { hashPassword, isOldHash, passwordMatches } from './secrets'
import { needStrongPassword } from './password-strength'
import { countTry, forgetTries, triesOf, wasRight } from './throttle'

/** Checked against when there is no such login, so that both answers take equally long. */
const decoy = hashPassword('no such person')

/** Who asks to be let in. */
export interface Caller {
  address: string
  /** The device, where this person has logged in on it before. */
  knows: (personId: string) => string | null
}
/**
 * Checks a login. Too many failures close a login, an address, and in the end logins from devices that nobody knows, for a while;
 * whoever has been logged in on a device before is counted there alone, and is locked out by nobody else.
 */
export async function logIn({ login, password }: BodyOf<typeof people.logIn>, { address, knows }: Caller): Promise<PersonRow> {
  const person = await database().models.people.findOne({ where: { login, active: true } })
  const device = person && knows(person.id)
  if (device) await countTry('device', `${person.id} ${device}`)
  else {
    await countTry('address', address)
    await countTry('login', login)
    await countTry('everybody', 'all')
  }
  const good = await passwordMatches(password, person?.passwordHash ?? (await decoy))
  if (person && !good) await wrongPassword(person)
  if (!person || !good) throw new ApiError(401, 'wrongLogin', 'Login or password is wrong.')
  if (isOldHash(person.passwordHash)) await person.update({ passwordHash: await hashPassword(password) })
  if (device) await forgetTries('device', `${person.id} ${device}`)
  else {
    await forgetTries('login', login)
    await wasRight('address', address)
    await wasRight('everybody', 'all')
  }
  return person
}

/** A wrong secret was tried for somebody: at some of the counts their open pages learn of it at once, else with their next look. */
export async function tellOwner({ id, companyId }: Pick<PersonRow, 'id' | 'companyId'>, tries: number): Promise<void> {
  if ([3, 5, 10, 20, 40].includes(tries)) await tellSessions(companyId, id)
}
export async function wrongPassword(person: Pick<PersonRow, 'id' | 'companyId'>): Promise<void> {
  await countTry('passwordDay', person.id)
  await tellOwner(person, await triesOf('passwordDay', person.id))
}
/** What was tried for somebody within a day, and was wrong. */
export const triedFor = async (personId: string): Promise<{ passwords: number; pins: number }> => ({
  passwords: await triesOf('passwordDay', personId),
  pins: await triesOf('pinDay', personId),
})

/** A cookie lives so long: a session that was not used since is no session, days. */
const livesDays = 14

/** Somebody logged in on a device. @param agent what its browser calls itself */
export async function openSession({ id: personId, companyId }: PersonRow, agent: string): Promise<string> {
  const { sessions } = database().models
  const now = new Date()
  await sessions.destroy({ where: { personId, seenAt: { [Op.lt]: new Date(now.getTime() - livesDays * 86_400_000) } } })
  const id = uuid()
  await sessions.create({ id, companyId, personId, device: agent.slice(0, 300), madeAt: now, seenAt: now })
  await leaveLine({ companyId, personId }, { deed: 'login', what: deviceSaid(agent) })
  return id
}
/** One that is there no more is closed already. */
export async function closeSession(personId: string, id: string): Promise<void> {
  await endedSession(personId, id)
}
/** @returns whether there was one */
async function endedSession(personId: string, id: string): Promise<boolean> {
  const session = await database().models.sessions.findOne({ where: { id, personId } })
  if (!session) return false
  await session.destroy()
  await tellSessions(session.companyId, personId)
  return true
}
/** Open connections of a person look at once whether they still may. */
export const tellSessions = (companyId: string, personId: string) =>
  transacted((transaction) => announce(companyId, [{ topic: 'sessions', branchId: null, streamId: personId }], transaction))

function deviceSaid(agent: string): string {
  const { browser, os } = Bowser.parse(agent || 'unknown')
  return [browser.name, os.name].filter(Boolean).join(', ') || 'unknown device'
}
/** Where somebody is logged in, the one used last first. */
export async function listSessions({ personId }: Viewer, here: string | null): Promise<AnswerOf<typeof people.listSessions>> {
  const rows = await database().models.sessions.findAll({
    where: { personId },
    order: [
      ['seenAt', 'DESC'],
      ['id', 'ASC'],
    ],
    raw: true,
  })
  return {
    sessions: rows.map(({ id, device, madeAt, seenAt }) => ({
      ...{ id, device: deviceSaid(device), here: id === here },
      ...{ madeAt: madeAt.toISOString(), seenAt: seenAt.toISOString() },
    })),
  }
}
/** One’s own only. */
export async function endOwnSession({ personId }: Viewer, id: string): Promise<void> {
  if (!(await endedSession(personId, id))) throw notFound('This login')
}
export async function endOtherSessions({ personId, companyId }: Viewer, here: string | null): Promise<void> {
  await database().models.sessions.destroy({ where: { personId, id: { [Op.ne]: here ?? '' } } })
  await tellSessions(companyId, personId)
}
/** A password of one’s own: every other login ends. Tries of the old one count as those of a login do. */
export async function changeOwnPassword(
  { personId, companyId }: Viewer,
  { password, next }: BodyOf<typeof people.changePassword>,
  here: string | null,
): Promise<void> {
  const person = await database().models.people.findByPk(personId)
  if (!person) throw notFound('This person')
  await countTry('login', person.login)
  if (!(await passwordMatches(password, person.passwordHash))) {
    await wrongPassword(person)
    throw new ApiError(403, 'wrongPassword', 'Your password now is another one.')
  }
  await forgetTries('login', person.login)
  needStrongPassword(next, [person.login, person.name])
  await person.update({ passwordHash: await hashPassword(next) })
  await endOtherSessions({ personId, companyId } as Viewer, here)
}
