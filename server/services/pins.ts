import type { people, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import type { Viewer } from './access'
import { ApiError } from './errors'
import { hashPassword, passwordMatches } from './secrets'
import { countTry, forgetTries } from './throttle'

/** A person sets their own PIN, with their password: it stands for them on a mate's device. */
export async function setPin(viewer: Viewer, { password, pin }: BodyOf<typeof people.setPin>): Promise<{ ok: true }> {
  const { models } = database()
  const person = await models.people.findByPk(viewer.personId)
  if (!person || !(await passwordMatches(password, person.passwordHash))) throw new ApiError(403, 'wrongPassword', 'The password is wrong.')
  await models.people.update({ pinHash: await hashPassword(pin) }, { where: { id: viewer.personId } })
  await forgetTries('pin', viewer.personId)
  return { ok: true }
}

/** The person of this PIN. After five wrong tries the PIN rests for five minutes, whichever device they came from. */
export async function checkPin(companyId: string, personId: string, pin: string): Promise<PersonRow> {
  const person = await database().models.people.findOne({ where: { id: personId, companyId, active: true } })
  if (!person) throw new ApiError(404, 'notFound', 'This person is not there.')
  if (!person.pinHash) throw new ApiError(422, 'noPin', `${person.name} has not set a PIN yet.`)
  await countTry('pin', personId)
  if (!(await passwordMatches(pin, person.pinHash))) throw new ApiError(403, 'wrongPin', 'The PIN is wrong.')
  await forgetTries('pin', personId)
  return person
}
