import type { Transaction } from 'sequelize'
import { database, transacted } from '../database'
import { ApiError } from './errors'
import { leaveLine } from './access-record'
import { takeFactorAway } from './second-factor'
import { hashPassword } from './secrets'
import { forgetTries } from './throttle'

/** One of a company by their login; several companies may have it. @throws ApiError 409 where it does not say which */
async function leadOf(login: string, company: string | null, transaction: Transaction) {
  const { models } = database()
  const named = company === null ? null : await models.companies.findAll({ where: { name: company }, transaction, raw: true })
  const found = await models.people.findAll({
    where: { login, role: 'lead', active: true, ...(named ? { companyId: named.map(({ id }) => id) } : {}) },
    ...{ transaction, lock: transaction.LOCK.UPDATE },
  })
  if (found.length > 1) throw new ApiError(409, 'whichCompany', 'Leads of several companies have this login: say which with --company="…".')
  return found[0] ?? null
}
/**
 * Whoever keeps the host lets a lead in again who has forgotten their password, when there is no other lead: every login of theirs ends.
 * @returns the lead’s name; null where no open account of a lead has this login
 */
export async function letLeadIn(login: string, password: string, company: string | null = null): Promise<string | null> {
  const { models } = database()
  const passwordHash = await hashPassword(password)
  const name = await transacted(async (transaction) => {
    const person = await leadOf(login, company, transaction)
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
export async function leadsHere(): Promise<{ login: string; name: string; company: string }[]> {
  const { models } = database()
  const names = new Map((await models.companies.findAll({ raw: true })).map(({ id, name }) => [id, name]))
  const leads = await models.people.findAll({ where: { role: 'lead', active: true }, order: ['login'], raw: true })
  return leads.map(({ login, name, companyId }) => ({ login, name, company: names.get(companyId) ?? '' }))
}
