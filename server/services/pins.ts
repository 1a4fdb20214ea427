import type { people, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import type { Viewer } from './access'
import { ApiError } from './errors'
import { hashPassword, isOldHash, passwordMatches } from './secrets'
import { byOwnPassword, tellOwner } from './own-password'
import { countTry, forgetTries, triesOf, wasRight } from './throttle'

/** A person sets their own PIN, with their password: it stands for them on a mate's device. */
export async function setPin(viewer: Viewer, { password, pin }: BodyOf<typeof people.setPin>): Promise<{ ok: true }> {
  await byOwnPassword(viewer, password)
  await database().models.people.update({ pinHash: await hashPassword(pin) }, { where: { id: viewer.personId } })
  for (const step of steps) await forgetTries(step, viewer.personId)
  return { ok: true }
}

/** Each rests longer than the one before. */
const steps = ['pin', 'pinHour', 'pinDay'] as const
/** The person of this PIN. After five wrong tries the PIN rests for five minutes, whichever device they came from; after more, longer. */
export async function checkPin(companyId: string, personId: string, pin: string): Promise<PersonRow> {
  const person = await database().models.people.findOne({ where: { id: personId, companyId, active: true } })
  if (!person) throw new ApiError(404, 'notFound', 'This person is not there.')
  if (!person.pinHash) throw new ApiError(422, 'noPin', `${person.name} has not set a PIN yet.`)
  for (const step of steps) await countTry(step, personId)
  if (!(await passwordMatches(pin, person.pinHash))) {
    await tellOwner(person, await triesOf('pinDay', personId))
    throw new ApiError(403, 'wrongPin', 'The PIN is wrong.')
  }
  if (isOldHash(person.pinHash)) await person.update({ pinHash: await hashPassword(pin) })
  await forgetTries('pin', personId)
  await forgetTries('pinHour', personId)
  // What others tried today stays on the list of its owner.
  await wasRight('pinDay', personId)
  return person
}
