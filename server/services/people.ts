import { Op, type Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { people, BodyOf, PersonView } from '../../core/protocol'
import { database, type PersonRow } from '../database'
import { branchFor, ownRows, type Viewer } from './access'
import { changesOf, leaveLine } from './access-record'
import { ApiError, notFound } from './errors'
import { reconcileSites } from './reconcile'
import { changeList } from './register'
import { needStrongPassword } from './password-strength'
import { takeFactorAway, withFactor } from './second-factor'
import { hashPassword } from './secrets'
import { tellSessions } from './own-password'
import { forgetTries } from './throttle'

const personView = (
  { id, branchId, login, name, initials, role, licensed, vanId, skills, active, pinHash }: PersonRow,
  vans: ReadonlyMap<string, string>,
  factors: ReadonlySet<string>,
): PersonView => ({
  id,
  branchId,
  login,
  name,
  initials,
  role,
  licensed: Boolean(licensed),
  vanId,
  vanName: vans.get(vanId ?? '') ?? null,
  skills: skills as string[],
  active: Boolean(active),
  hasPin: Boolean(pinHash),
  hasFactor: factors.has(id),
})

/** What of a person stands in the access record when it changes. */
const recorded = ['login', 'name', 'initials', 'role', 'licensed', 'active', 'skills', 'hasFactor'] as const

/** Names of vans by id. */
async function vansOf(companyId: string): Promise<Map<string, string>> {
  const rows = await database().models.stockPlaces.findAll({ where: { companyId, kind: 'van' }, attributes: ['id', 'name'], raw: true })
  return new Map(rows.map(({ id, name }) => [id, name]))
}

export async function listPeople(viewer: Viewer): Promise<PersonView[]> {
  const [people, vans, factors] = await Promise.all([
    database().models.people.findAll({ where: ownRows(viewer), order: [['name', 'ASC']] }),
    vansOf(viewer.companyId),
    withFactor(viewer.companyId),
  ])
  return people.map((person) => personView(person, vans, factors))
}

/** Tags carry initials: two people of one company never share them. */
async function initialsAreFree(companyId: string, letters: string, except: string | null, transaction: Transaction): Promise<void> {
  const twin = await database().models.people.findOne({
    where: { companyId, initials: letters, active: true, ...(except ? { id: { [Op.ne]: except } } : {}) },
    transaction,
    raw: true,
  })
  if (twin)
    throw new ApiError(
      409,
      'initialsTaken',
      `${twin.name} has the initials ${letters}: a tag would not tell the two apart. Take three letters.`,
    )
}

/** Vans are places of a branch’s stock. */
async function vanIsTheirs(companyId: string, branchId: string, vanId: string | null | undefined, transaction: Transaction): Promise<void> {
  if (!vanId) return
  const van = await database().models.stockPlaces.findOne({
    where: { id: vanId, companyId, branchId, kind: 'van', active: true },
    transaction,
    raw: true,
  })
  if (!van) throw new ApiError(422, 'noSuchVan', 'This is no van of their branch.')
}

export async function addPerson(viewer: Viewer, input: BodyOf<typeof people.addPerson>): Promise<PersonView> {
  await branchFor(viewer, input.branchId)
  const { password: secret, ...rest } = input
  needStrongPassword(secret, [input.login, input.name])
  const passwordHash = await hashPassword(secret)
  return changeList(viewer, 'people', async (transaction) => {
    const { models } = database()
    if (await models.people.count({ where: { companyId: viewer.companyId, login: input.login }, transaction }))
      throw new ApiError(409, 'loginTaken', 'This login is already used.')
    await initialsAreFree(viewer.companyId, input.initials, null, transaction)
    await vanIsTheirs(viewer.companyId, input.branchId, input.vanId, transaction)
    const vans = await vansOf(viewer.companyId)
    const row = await models.people.create(
      {
        id: uuid(),
        companyId: viewer.companyId,
        ...rest,
        active: true,
        passwordHash,
        sessionEpoch: 0,
        pinHash: null,
        vanId: input.vanId ?? null,
        skills: input.skills ?? [],
      },
      { transaction },
    )
    const view = personView(row, vans, new Set())
    await leaveLine(viewer, { deed: 'person', what: 'added', refId: row.id, changes: changesOf(null, view, recorded) }, transaction)
    return view
  })
}

export async function changePerson(viewer: Viewer, personId: string, input: BodyOf<typeof people.changePerson>): Promise<PersonView> {
  if (input.branchId) await branchFor(viewer, input.branchId)
  const { password: secret, hasFactor, ...rest } = input
  if (secret) needStrongPassword(secret, [input.login ?? '', input.name ?? ''])
  const passwordHash = secret ? await hashPassword(secret) : null
  let ends = false
  const answer = await changeList(viewer, 'people', async (transaction) => {
    const { models } = database()
    const person = await models.people.findOne({
      where: { id: personId, companyId: viewer.companyId },
      transaction,
      lock: transaction.LOCK.UPDATE,
    })
    if (!person) throw notFound('This person')
    if (person.id === viewer.personId && (input.active === false || (input.role && input.role !== person.role)))
      throw new ApiError(409, 'ownAccount', 'You cannot take your own access away.')
    const taken = { companyId: viewer.companyId, login: input.login ?? '' }
    if (input.login && input.login !== person.login && (await models.people.count({ where: taken, transaction })))
      throw new ApiError(409, 'loginTaken', 'This login is already used.')
    if (input.initials || input.active) await initialsAreFree(viewer.companyId, input.initials ?? person.initials, person.id, transaction)
    // The van stays with its branch.
    if (input.branchId && input.branchId !== person.branchId && !input.vanId) rest.vanId = null
    if (input.vanId) await vanIsTheirs(viewer.companyId, input.branchId ?? person.branchId, input.vanId, transaction)
    // A new password, role, branch or a closed account ends every session of that person.
    ends =
      passwordHash !== null ||
      input.active === false ||
      (input.role !== undefined && input.role !== person.role) ||
      (input.branchId !== undefined && input.branchId !== person.branchId)
    const vans = await vansOf(viewer.companyId)
    const factors = await withFactor(viewer.companyId)
    const before = personView(person, vans, factors)
    if (hasFactor === false && (await takeFactorAway(person.id, transaction))) factors.delete(person.id)
    await person.update(
      { ...rest, ...(passwordHash ? { passwordHash } : {}), sessionEpoch: person.sessionEpoch + (ends ? 1 : 0) },
      { transaction },
    )
    const after = personView(person, vans, factors)
    const changes = [
      ...changesOf(before, after, recorded),
      ...(passwordHash ? [{ field: 'password', from: '', to: 'another one' }] : []),
      ...(before.branchId === after.branchId ? [] : [{ field: 'branch', from: '', to: 'another one' }]),
    ]
    if (changes.length) await leaveLine(viewer, { deed: 'person', what: 'changed', refId: person.id, changes }, transaction)
    return after
  })
  if (ends) await tellSessions(viewer.companyId, personId)
  if (passwordHash) await forgetTries('login', answer.login)
  // A licence that ends, or an account that closes, ends what rested on it, wherever this person works.
  if (input.licensed === false || input.active === false || input.role) await reconcileSites(viewer.companyId, viewer)
  return answer
}
