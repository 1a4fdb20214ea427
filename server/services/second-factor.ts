import { Secret, TOTP } from 'otpauth'
import { Op, type Transaction } from 'sequelize'
import type { people, BodyOf } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import type { Viewer } from './access'
import { ApiError } from './errors'
import { seal, unseal } from './secrets'
import { byOwnPassword } from './own-password'
import { countTry, forgetTries } from './throttle'

const periodSeconds = 30
/** Time-based one-time passwords as RFC 6238 has them, with what all apps for them understand: SHA-1, six digits, half a minute. */
const totp = (login: string, secret: string) =>
  new TOTP({ issuer: 'Circuitry', label: login, algorithm: 'SHA1', digits: 6, period: periodSeconds, secret: Secret.fromBase32(secret) })

/** Whose logins ask for a code. */
export async function withFactor(companyId: string): Promise<Set<string>> {
  const rows = await database().models.secondFactors.findAll({
    where: { companyId, onSince: { [Op.ne]: null } },
    attributes: ['personId'],
    raw: true,
  })
  return new Set(rows.map(({ personId }) => personId))
}
const factorOf = (personId: string) => database().models.secondFactors.findByPk(personId)
type Factor = Awaited<ReturnType<typeof factorOf>>
export const hasFactor = async (personId: string): Promise<boolean> => Boolean((await factorOf(personId))?.onSince)

/** Is this its code now, or just before or after? Each holds once. */
async function takes(person: PersonRow, factor: Factor, code: string, now: number): Promise<boolean> {
  if (!factor) return false
  const delta = totp(person.login, unseal(factor.secretSealed)).validate({ token: code.replace(/\s/g, ''), window: 1, timestamp: now })
  if (delta === null) return false
  const step = Math.floor(now / 1000 / periodSeconds) + delta
  const [fresh] = await database().models.secondFactors.update(
    { usedStep: step },
    { where: { personId: person.id, usedStep: { [Op.lt]: step } } },
  )
  return fresh === 1
}
/** At a login whose password was right. @throws ApiError 401 where a code is asked for, or is not right */
export async function needFactor(person: PersonRow, code: string, now = Date.now()): Promise<void> {
  const factor = await factorOf(person.id)
  if (!factor?.onSince) return
  if (!code) throw new ApiError(401, 'codeNeeded', 'Type the code that your other device shows for Circuitry.')
  if (!(await takes(person, factor, code, now)))
    throw new ApiError(
      401,
      'wrongCode',
      'This code is not right, or was used already. Wait for the next one, and look at the clock of that device.',
    )
}

/** A new secret, which counts for nothing before one of its codes was right. */
export async function beginFactor(
  viewer: Viewer,
  { password }: BodyOf<typeof people.beginFactor>,
): Promise<{ secret: string; uri: string }> {
  const person = await byOwnPassword(viewer, password)
  if (await hasFactor(person.id)) throw new ApiError(409, 'factorOn', 'Your second factor is on already. Switch it off first.')
  const secret = new Secret({ size: 20 }).base32
  await database().models.secondFactors.upsert({
    ...{ personId: person.id, companyId: person.companyId, secretSealed: seal(secret) },
    ...{ usedStep: 0, onSince: null },
  })
  return { secret, uri: totp(person.login, secret).toString() }
}
export async function confirmFactor(viewer: Viewer, { code }: BodyOf<typeof people.confirmFactor>, now = Date.now()): Promise<void> {
  const person = (await database().models.people.findByPk(viewer.personId))!
  await countTry('login', person.login)
  if (!(await takes(person, await factorOf(person.id), code, now)))
    throw new ApiError(422, 'wrongCode', 'This is not the code that it shows now. Look at the clock of that device.')
  await forgetTries('login', person.login)
  await database().models.secondFactors.update({ onSince: new Date() }, { where: { personId: person.id } })
}
export async function endFactor(viewer: Viewer, { password, code }: BodyOf<typeof people.endFactor>, now = Date.now()): Promise<void> {
  const person = await byOwnPassword(viewer, password)
  await countTry('login', person.login)
  if (!(await takes(person, await factorOf(person.id), code, now)))
    throw new ApiError(422, 'wrongCode', 'This is not the code that it shows now.')
  await forgetTries('login', person.login)
  await takeFactorAway(person.id)
}
/** Their device is lost: a lead, or whoever keeps the host, lets them in without it. @returns whether there was one */
export const takeFactorAway = async (personId: string, transaction?: Transaction): Promise<boolean> =>
  (await database().models.secondFactors.destroy({ where: { personId }, transaction })) > 0
