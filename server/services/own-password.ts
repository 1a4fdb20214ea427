import { database, transacted, type PersonRow } from '../database'
import type { Viewer } from './access'
import { ApiError, notFound } from './errors'
import { announce } from './feed'
import { passwordMatches } from './secrets'
import { countTry, forgetTries, triesOf } from './throttle'

/** Open connections of a person look at once whether they still may. */
export const tellSessions = (companyId: string, personId: string) =>
  transacted((transaction) => announce(companyId, [{ topic: 'sessions', branchId: null, streamId: personId }], transaction))

/** A wrong secret was tried for somebody: at some of the counts their open pages learn of it at once, else with their next look. */
export async function tellOwner({ id, companyId }: Pick<PersonRow, 'id' | 'companyId'>, tries: number): Promise<void> {
  if ([3, 5, 10, 20, 40].includes(tries)) await tellSessions(companyId, id)
}
export async function wrongPassword(person: Pick<PersonRow, 'id' | 'companyId'>): Promise<void> {
  await countTry('passwordDay', person.id)
  await tellOwner(person, await triesOf('passwordDay', person.id))
}
/** As much work as for somebody. */
export async function noteNobody(): Promise<void> {
  await countTry('passwordDay', 'nobody')
  await triesOf('passwordDay', 'nobody')
}
/** What was tried for somebody within a day, and was wrong. */
export const triedFor = async (personId: string): Promise<{ passwords: number; pins: number }> => ({
  passwords: await triesOf('passwordDay', personId),
  pins: await triesOf('pinDay', personId),
})

/**
 * Something of one’s own that the password is asked for again: whoever holds a device that is logged in has no more guesses than at the
 * door.
 * @throws ApiError 403 where it is another one, 429 after many
 */
export async function byOwnPassword({ personId }: Viewer, password: string, sentence = 'The password is wrong.') {
  const person = await database().models.people.findByPk(personId)
  if (!person) throw notFound('This person')
  await countTry('login', person.login)
  if (!(await passwordMatches(password, person.passwordHash))) {
    await wrongPassword(person)
    throw new ApiError(403, 'wrongPassword', sentence)
  }
  await forgetTries('login', person.login)
  return person
}
