import Bowser from 'bowser'
import { Op } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { people, AnswerOf, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import type { Viewer } from './access'
import { leaveLine } from './access-record'
import { ApiError, notFound } from './errors'
import { byOwnPassword, noteNobody, tellSessions, wrongPassword } from './own-password'
import { hashPassword, isOldHash, passwordMatches } from './secrets'
import { needStrongPassword } from './password-strength'
import { needHere } from './companies'
import { needFactor } from './second-factor'
import { countTry, forgetTries, wasRight } from './throttle'

/** Checked against when there is no such login, so that both answers take equally long. */
const decoy = hashPassword('no such person')

/** Who asks to be let in. */
export interface Caller {
  address: string
  /** The device, where this person has logged in on it before. */
  knows: (personId: string) => string | null
}
/** So many companies with one login are looked at: each costs as much as a password does. */
const mostNamesakes = 40
/**
 * Which of the people with this login has this password; two companies know nothing of each other's logins. null: nobody.
 * @param known who has been logged in on this device before is meant first
 */
async function whoHas<P extends PersonRow>(people: P[], password: string, known: P | undefined): Promise<P | null> {
  if (known && (await passwordMatches(password, known.passwordHash))) return known
  // What a login that nobody has takes as long for: how long an answer took says nothing.
  if (!people.length) await passwordMatches(password, await decoy)
  const found: P[] = []
  for (const person of people) if (person !== known && (await passwordMatches(password, person.passwordHash))) found.push(person)
  if (found.length > 1)
    throw new ApiError(409, 'sameLogin', 'This login and this password together are used twice. Ask a lead of yours for another login.')
  return found[0] ?? null
}

/**
 * Checks a login. Too many failures close a login, an address, and in the end logins from devices that nobody knows, for a while;
 * whoever has been logged in on a device before is counted there alone, and is locked out by nobody else.
 */
export async function logIn(
  { login, password, code = '' }: Omit<BodyOf<typeof people.logIn>, 'code'> & { code?: string },
  { address, knows }: Caller,
): Promise<PersonRow> {
  const people = await database().models.people.findAll({ where: { login, active: true }, order: ['id'], limit: mostNamesakes })
  const known = people.find(({ id }) => knows(id))
  const device = known && `${known.id} ${knows(known.id)}`
  if (device) await countTry('device', device)
  else {
    await countTry('address', address)
    await countTry('login', login)
    await countTry('everybody', 'all')
  }
  const person = await whoHas(people, password, known)
  if (!person) {
    await (people.length ? Promise.all(people.map(wrongPassword)) : noteNobody())
    throw new ApiError(401, 'wrongLogin', 'Login or password is wrong.')
  }
  try {
    await needFactor(person, code)
  } catch (error) {
    // Asking for the code is no wrong try.
    if (error instanceof ApiError && error.code === 'codeNeeded')
      await (device
        ? wasRight('device', device)
        : Promise.all([wasRight('login', login), wasRight('address', address), wasRight('everybody', 'all')]))
    // Somebody has the password: its owner should know.
    else await wrongPassword(person)
    throw error
  }
  if (isOldHash(person.passwordHash)) await person.update({ passwordHash: await hashPassword(password) })
  if (device) await forgetTries('device', device)
  else {
    await forgetTries('login', login)
    await wasRight('address', address)
    await wasRight('everybody', 'all')
  }
  // Last: who was right, and is told to go elsewhere, was not wrong.
  await needHere(person.companyId)
  return person
}

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
  viewer: Viewer,
  { password, next }: BodyOf<typeof people.changePassword>,
  here: string | null,
): Promise<void> {
  const person = await byOwnPassword(viewer, password, 'Your password now is another one.')
  needStrongPassword(next, [person.login, person.name])
  await person.update({ passwordHash: await hashPassword(next) })
  await endOtherSessions(viewer, here)
}
