import type { people, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import { ApiError } from './errors'
import { hashPassword, passwordMatches } from './secrets'
import { countTry, forgetTries, wasRight } from './throttle'

/** Checked against when there is no such login, so that both answers take equally long. */
const decoy = hashPassword('no such person')

/** Checks a login. Too many failures for a login or an address close it for a while, whoever asks. */
export async function logIn({ login, password }: BodyOf<typeof people.logIn>, address: string): Promise<PersonRow> {
  await countTry('address', address)
  await countTry('login', login)
  const person = await database().models.people.findOne({ where: { login, active: true } })
  const good = await passwordMatches(password, person?.passwordHash ?? (await decoy))
  if (!person || !good) throw new ApiError(401, 'wrongLogin', 'Login or password is wrong.')
  await forgetTries('login', login)
  await wasRight('address', address)
  return person
}
