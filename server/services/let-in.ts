import { database, transacted } from '../database'
import { leaveLine } from './access-record'
import { takeFactorAway } from './second-factor'
import { hashPassword } from './secrets'
import { forgetTries } from './throttle'

/**
 * Whoever keeps the host lets a lead in again who has forgotten their password, when there is no other lead: every login of theirs ends.
 * @returns the lead’s name; null where no open account of a lead has this login
 */
export async function letLeadIn(login: string, password: string): Promise<string | null> {
  const { models } = database()
  const passwordHash = await hashPassword(password)
  const name = await transacted(async (transaction) => {
    const person = await models.people.findOne({
      where: { login, role: 'lead', active: true },
      transaction,
      lock: transaction.LOCK.UPDATE,
    })
    if (!person) return null
    await person.update({ passwordHash, sessionEpoch: person.sessionEpoch + 1 }, { transaction })
    await takeFactorAway(person.id, transaction)
    await models.sessions.destroy({ where: { personId: person.id }, transaction })
    const changes = [{ field: 'password', from: '', to: 'another one, on the host' }]
    await leaveLine(
      { companyId: person.companyId, personId: person.id },
      { deed: 'person', what: 'changed', refId: person.id, changes },
      transaction,
    )
    return person.name
  })
  if (name) await forgetTries('login', login)
  return name
}
/** Logins of leads whose account is open. */
export const leadsHere = async (): Promise<{ login: string; name: string }[]> =>
  database().models.people.findAll({ where: { role: 'lead', active: true }, attributes: ['login', 'name'], order: ['login'], raw: true })
