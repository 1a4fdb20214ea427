import { Op } from 'sequelize'
import type { people, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import { ApiError } from './errors'
import { hashPassword, passwordMatches } from './secrets'

const windowMinutes = 15
const failuresPerLogin = 8
const failuresPerAddress = 40
/** Checked against when there is no such login, so that both answers take equally long. */
const decoy = hashPassword('no such person')

/** Checks a login. Too many failures for a login or an address close it for a while, whoever asks. */
export async function logIn({ login, password }: BodyOf<typeof people.logIn>, address: string): Promise<PersonRow> {
  const { models } = database()
  const since = { [Op.gt]: new Date(Date.now() - windowMinutes * 60_000) }
  const [byLogin, byAddress] = await Promise.all([
    models.loginAttempts.count({ where: { login, at: since } }),
    models.loginAttempts.count({ where: { address, at: since } }),
  ])
  if (byLogin >= failuresPerLogin || byAddress >= failuresPerAddress)
    throw new ApiError(429, 'tooManyTries', `Too many wrong passwords. Wait ${windowMinutes} minutes, or have a lead set a new one.`)
  const person = await models.people.findOne({ where: { login, active: true } })
  const good = await passwordMatches(password, person?.passwordHash ?? (await decoy))
  if (!person || !good) {
    await models.loginAttempts.create({ id: null, login, address, at: new Date() })
    throw new ApiError(401, 'wrongLogin', 'Login or password is wrong.')
  }
  await models.loginAttempts.destroy({ where: { login } })
  return person
}
