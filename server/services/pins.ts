import { QueryTypes } from 'sequelize'
import type { people, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import type { Viewer } from './access'
import { ApiError } from './errors'
import { hashPassword, passwordMatches } from './secrets'

const mostFailures = 5
const lockMinutes = 5

/** A person sets their own PIN, with their password: it stands for them on a mate's device. */
export async function setPin(viewer: Viewer, { password, pin }: BodyOf<typeof people.setPin>): Promise<{ ok: true }> {
  const { models } = database()
  const person = await models.people.findByPk(viewer.personId)
  if (!person || !(await passwordMatches(password, person.passwordHash))) throw new ApiError(403, 'wrongPassword', 'The password is wrong.')
  await models.people.update({ pinHash: await hashPassword(pin), pinFailures: 0, pinLockedUntil: null }, { where: { id: viewer.personId } })
  return { ok: true }
}

/** The person of this PIN. After five wrong tries the PIN rests for five minutes, whichever device they came from. */
export async function checkPin(companyId: string, personId: string, pin: string, now: Date): Promise<PersonRow> {
  const { models, sequelize } = database()
  const person = await models.people.findOne({ where: { id: personId, companyId, active: true } })
  if (!person) throw new ApiError(404, 'notFound', 'This person is not there.')
  if (!person.pinHash) throw new ApiError(422, 'noPin', `${person.name} has not set a PIN yet.`)
  // Counted before it is looked at, in one statement: many guesses at once get no more tries than five.
  const [, counted] = await sequelize.query(
    'UPDATE people SET pin_failures = IF(pin_locked_until IS NOT NULL AND pin_locked_until <= :now, 1, pin_failures + 1), pin_locked_until = IF(pin_locked_until <= :now, NULL, pin_locked_until) WHERE id = :personId AND (pin_locked_until IS NULL OR pin_locked_until <= :now)',
    { replacements: { personId, now }, type: QueryTypes.UPDATE },
  )
  const after = await models.people.findByPk(personId, { raw: true })
  if (!counted || !after || after.pinFailures > mostFailures) {
    if (counted) await models.people.update({ pinLockedUntil: new Date(now.getTime() + lockMinutes * 60_000) }, { where: { id: personId } })
    throw new ApiError(429, 'pinLocked', `Too many wrong PINs. Wait ${lockMinutes} minutes.`)
  }
  if (!(await passwordMatches(pin, person.pinHash))) throw new ApiError(403, 'wrongPin', 'The PIN is wrong.')
  await models.people.update({ pinFailures: 0, pinLockedUntil: null }, { where: { id: personId } })
  return person
}
