import { Op, type Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import { deviceModelSchema, type DeviceModel } from '../../core/fit'
import type { company, people, BodyOf, CatalogueModel, FeedTopic, Instrument, PersonView } from '../../core/protocol'
import { branchSettingsSchema } from '../../core/units'
import { database, type PersonRow } from '../database'
import { hub } from '../realtime/hub'
import { branchFor, isOffice, needRole, type Viewer } from './access'
import { starterCatalogue } from './starter-catalogue'
import { ApiError, notFound } from './errors'
import { reconcileSites } from './reconcile'
import { announce } from './feed'
import { hashPassword } from './secrets'

export async function isSetUp(): Promise<boolean> {
  return (await database().models.companies.count()) > 0
}

/** The first company, its first branch and its lead. Works only while there is no company at all. */
export async function setUp(setup: BodyOf<typeof company.setUp>): Promise<PersonRow> {
  const { sequelize, models } = database()
  const passwordHash = await hashPassword(setup.person.password)
  return sequelize.transaction(async (transaction) => {
    const [[lock]] = (await sequelize.query("SELECT GET_LOCK('circuitry-setup', 10) AS held", { transaction })) as unknown as [
      [{ held: number }],
    ]
    try {
      if (lock.held !== 1 || (await models.companies.count({ transaction })) > 0)
        throw new ApiError(409, 'alreadySetUp', 'This Circuitry already has a company. Log in.')
      const companyId = uuid()
      const branchId = uuid()
      await models.companies.create({ id: companyId, name: setup.company, createdAt: new Date() }, { transaction })
      await sequelize.query('INSERT INTO feeds (company_id, seq) VALUES (:companyId, 0)', { replacements: { companyId }, transaction })
      await models.branches.create(
        {
          id: branchId,
          companyId,
          name: setup.branch,
          schemeId: setup.schemeId,
          timezone: setup.timezone,
          settings: branchSettingsSchema.parse({}),
        },
        { transaction },
      )
      await models.models.bulkCreate(
        starterCatalogue(uuid).map((model) => modelRow(companyId, model, true)),
        { transaction },
      )
      const person = {
        id: uuid(),
        companyId,
        branchId,
        login: setup.person.login,
        name: setup.person.name,
        initials: setup.person.initials,
        role: 'lead' as const,
        licensed: setup.person.licensed,
        active: true,
        passwordHash,
        sessionEpoch: 0,
        pinHash: null,
        pinFailures: 0,
        pinLockedUntil: null,
      }
      await models.people.create(person, { transaction })
      return person
    } finally {
      await sequelize.query("SELECT RELEASE_LOCK('circuitry-setup')", { transaction })
    }
  })
}

/** Runs a change to a managed list and announces it in the same transaction. */
async function change<T>(viewer: Viewer, topic: FeedTopic, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const result = await database().sequelize.transaction(async (transaction) => {
    const value = await work(transaction)
    await announce(viewer.companyId, [{ topic, branchId: null }], transaction)
    return value
  })
  hub.wake(viewer.companyId)
  return result
}

const personView = ({
  id,
  branchId,
  login: loginName,
  name: fullName,
  initials: letters,
  role,
  licensed,
  active,
  pinHash,
}: PersonRow): PersonView => ({
  id,
  branchId,
  login: loginName,
  name: fullName,
  initials: letters,
  role,
  licensed: Boolean(licensed),
  active: Boolean(active),
  hasPin: Boolean(pinHash),
})

export async function listPeople(viewer: Viewer): Promise<PersonView[]> {
  const where = isOffice(viewer) ? { companyId: viewer.companyId } : { companyId: viewer.companyId, branchId: viewer.branchId }
  return (await database().models.people.findAll({ where, order: [['name', 'ASC']] })).map(personView)
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

export async function addPerson(viewer: Viewer, input: BodyOf<typeof people.addPerson>): Promise<PersonView> {
  await branchFor(viewer, input.branchId)
  const { password: secret, ...rest } = input
  const passwordHash = await hashPassword(secret)
  return change(viewer, 'people', async (transaction) => {
    const { models } = database()
    if (await models.people.count({ where: { login: input.login }, transaction }))
      throw new ApiError(409, 'loginTaken', 'This login is already used.')
    await initialsAreFree(viewer.companyId, input.initials, null, transaction)
    return personView(
      await models.people.create(
        {
          id: uuid(),
          companyId: viewer.companyId,
          ...rest,
          active: true,
          passwordHash,
          sessionEpoch: 0,
          pinHash: null,
          pinFailures: 0,
          pinLockedUntil: null,
        },
        { transaction },
      ),
    )
  })
}

export async function changePerson(viewer: Viewer, personId: string, input: BodyOf<typeof people.changePerson>): Promise<PersonView> {
  if (input.branchId) await branchFor(viewer, input.branchId)
  const { password: secret, ...rest } = input
  const passwordHash = secret ? await hashPassword(secret) : null
  const answer = await change(viewer, 'people', async (transaction) => {
    const { models } = database()
    const person = await models.people.findOne({
      where: { id: personId, companyId: viewer.companyId },
      transaction,
      lock: transaction.LOCK.UPDATE,
    })
    if (!person) throw notFound('This person')
    if (person.id === viewer.personId && (input.active === false || (input.role && input.role !== person.role)))
      throw new ApiError(409, 'ownAccount', 'You cannot take your own access away.')
    if (input.login && input.login !== person.login && (await models.people.count({ where: { login: input.login }, transaction })))
      throw new ApiError(409, 'loginTaken', 'This login is already used.')
    if (input.initials || input.active) await initialsAreFree(viewer.companyId, input.initials ?? person.initials, person.id, transaction)
    // A new password, role, branch or a closed account ends every session of that person.
    const ends =
      passwordHash !== null ||
      input.active === false ||
      (input.role && input.role !== person.role) ||
      (input.branchId && input.branchId !== person.branchId)
    await person.update(
      { ...rest, ...(passwordHash ? { passwordHash } : {}), sessionEpoch: person.sessionEpoch + (ends ? 1 : 0) },
      { transaction },
    )
    return personView(person)
  })
  // A licence that ends, or an account that closes, ends what rested on it, wherever this person works.
  if (input.licensed === false || input.active === false || input.role) await reconcileSites(viewer.companyId, viewer)
  return answer
}

export async function listBranches(viewer: Viewer) {
  const rows = await database().models.branches.findAll({
    where: isOffice(viewer) ? { companyId: viewer.companyId } : { companyId: viewer.companyId, id: viewer.branchId },
    order: [['name', 'ASC']],
  })
  return rows.map(({ id, name: branchName, schemeId, timezone: zone, settings }) => ({
    id,
    name: branchName,
    schemeId,
    timezone: zone,
    settings: branchSettingsSchema.parse(settings),
  }))
}

export async function addBranch(viewer: Viewer, input: BodyOf<typeof company.addBranch>) {
  needRole(viewer, ['lead'], 'Only a lead opens a branch.')
  return change(viewer, 'settings', async (transaction) => {
    const row = await database().models.branches.create(
      { id: uuid(), companyId: viewer.companyId, ...input, settings: branchSettingsSchema.parse({}) },
      { transaction },
    )
    return { id: row.id }
  })
}

export async function changeBranch(viewer: Viewer, branchId: string, input: BodyOf<typeof company.changeBranch>) {
  const branch = await branchFor(viewer, branchId)
  return change(viewer, 'settings', async (transaction) => {
    await database().models.branches.update(input, { where: { id: branch.id }, transaction })
    return { id: branch.id }
  })
}

const modelRow = (companyId: string, model: DeviceModel, active: boolean) => ({
  id: model.id,
  companyId,
  maker: model.maker,
  name: model.name,
  active,
  data: JSON.stringify(model),
})

export async function listCatalogue(viewer: Viewer): Promise<CatalogueModel[]> {
  const rows = await database().models.models.findAll({
    where: { companyId: viewer.companyId },
    order: [
      ['maker', 'ASC'],
      ['name', 'ASC'],
    ],
    raw: true,
  })
  return rows.map((row) => ({ ...deviceModelSchema.parse(JSON.parse(row.data)), active: Boolean(row.active) }))
}

export async function addModel(viewer: Viewer, input: BodyOf<typeof company.addModel>): Promise<{ id: string }> {
  const id = uuid()
  await change(viewer, 'catalogue', (transaction) =>
    database().models.models.create(modelRow(viewer.companyId, { ...input, id }, true), { transaction }),
  )
  return { id }
}

export async function changeModel(viewer: Viewer, modelId: string, input: BodyOf<typeof company.changeModel>): Promise<{ id: string }> {
  return change(viewer, 'catalogue', async (transaction) => {
    const row = await database().models.models.findOne({ where: { id: modelId, companyId: viewer.companyId }, transaction })
    if (!row) throw notFound('This model')
    await row.update(
      input.model
        ? modelRow(viewer.companyId, { ...input.model, id: modelId }, input.active ?? row.active)
        : { active: input.active ?? row.active },
      { transaction },
    )
    return { id: modelId }
  })
}

export async function listInstruments(viewer: Viewer): Promise<Instrument[]> {
  const branch = isOffice(viewer) ? {} : { branchId: viewer.branchId }
  const rows = await database().models.instruments.findAll({
    where: { companyId: viewer.companyId, ...branch },
    order: [['name', 'ASC']],
    raw: true,
  })
  return rows.map(({ companyId: _company, provedGoodAt, ...row }) => ({
    ...row,
    active: Boolean(row.active),
    outOfService: Boolean(row.outOfService),
    provedGoodAt: provedGoodAt?.toISOString() ?? null,
  }))
}

export async function addInstrument(viewer: Viewer, input: BodyOf<typeof company.addInstrument>): Promise<{ id: string }> {
  await branchFor(viewer, input.branchId)
  return change(viewer, 'instruments', async (transaction) => ({
    id: (
      await database().models.instruments.create(
        {
          id: uuid(),
          companyId: viewer.companyId,
          ...input,
          active: true,
          outOfService: false,
          failedWhy: '',
          provedGoodAt: null,
          serviceNote: '',
        },
        { transaction },
      )
    ).id,
  }))
}

export async function changeInstrument(
  viewer: Viewer,
  instrumentId: string,
  input: BodyOf<typeof company.changeInstrument>,
): Promise<{ id: string }> {
  const { failed, backInService, ...rest } = input
  if (rest.branchId) await branchFor(viewer, rest.branchId)
  if (backInService) needRole(viewer, ['lead'], 'Only a lead brings a tester back into service.')
  const service = failed
    ? { outOfService: true, failedWhy: failed.why }
    : backInService
      ? {
          outOfService: false,
          provedGoodAt: new Date(),
          serviceNote:
            `${backInService.done} (${viewer.initials}; ${backInService.checks.map(({ source, volts }) => `${volts} V on ${source}`).join(', ')})`.slice(
              0,
              500,
            ),
        }
      : {}
  const answer = await change(viewer, 'instruments', async (transaction) => {
    const [count] = await database().models.instruments.update(
      { ...rest, ...service },
      { where: { id: instrumentId, companyId: viewer.companyId }, transaction },
    )
    if (
      count === 0 &&
      !(await database().models.instruments.count({ where: { id: { [Op.eq]: instrumentId }, companyId: viewer.companyId }, transaction }))
    )
      throw notFound('This tester')
    return { id: instrumentId }
  })
  if (failed) await reconcileSites(viewer.companyId, viewer)
  return answer
}
