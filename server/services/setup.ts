import { createHash, timingSafeEqual } from 'node:crypto'
import type { Transaction } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { company, BodyOf } from '../../core/protocol'
import { branchSettingsSchema } from '../../core/units'
import { database, transacted, type PersonRow } from '../database'
import { holdFixedRow } from '../database/fixed-row'
import { starterRows } from './articles'
import { modelRow, partRow } from './catalogue'
import { ApiError } from './errors'
import { needStrongPassword } from './password-strength'
import { hashPassword } from './secrets'
import { countTry, forgetTries } from './throttle'
import { starterCatalogue } from './starter-catalogue'
import { starterParts } from './starter-parts'

export async function isSetUp(): Promise<boolean> {
  return (await database().models.companies.count()) > 0
}

/** What the start of the server told whoever started it: without it whoever comes first would be the lead. Empty: it is not asked for. */
export const setUpCode = (): string => process.env.CIRCUITRY_SETUP_CODE?.trim() ?? ''
/** @throws ApiError 403 where it is another one, 429 after many */
export async function needSetUpCode(given: string): Promise<void> {
  const code = setUpCode()
  if (!code || (await isSetUp())) return
  await countTry('setUpCode', 'all')
  const [a, b] = [given, code].map((text) => createHash('sha256').update(text.toLowerCase()).digest()) as [Buffer, Buffer]
  if (!timingSafeEqual(a, b))
    throw new ApiError(403, 'wrongSetUpCode', 'This is not the code that the start of the server has said.', [
      { where: 'code', problem: 'This is another code.' },
    ])
  await forgetTries('setUpCode', 'all')
}

type Setup = Omit<BodyOf<typeof company.setUp>, 'code'>
/** A company with its first branch, its lead, and what every company begins with. */
async function makeCompany(setup: Setup, passwordHash: string, transaction: Transaction): Promise<PersonRow> {
  const { models } = database()
  const companyId = uuid()
  const branchId = uuid()
  await models.companies.create({ id: companyId, name: setup.company, createdAt: new Date(), movedTo: null }, { transaction })
  await models.feeds.create({ companyId, seq: 0 }, { transaction })
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
  const catalogue = starterCatalogue(uuid)
  const parts = starterParts(uuid)
  await models.models.bulkCreate(
    catalogue.map((model) => modelRow(companyId, model, true)),
    { transaction },
  )
  await models.parts.bulkCreate(
    parts.map((part) => partRow(companyId, part, true)),
    { transaction },
  )
  await models.articles.bulkCreate(starterRows(companyId, branchId, catalogue, parts, setup.schemeId), { transaction })
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
    vanId: null,
    skills: [],
  }
  await models.people.create(person, { transaction })
  return person
}
const hashOf = (setup: Setup) => {
  needStrongPassword(setup.person.password, [setup.company, setup.branch, setup.person.login, setup.person.name])
  return hashPassword(setup.person.password)
}

/** The first company, its first branch and its lead. Works only while there is no company at all. */
export async function setUp(setup: Setup): Promise<PersonRow> {
  const { sequelize, models } = database()
  const passwordHash = await hashOf(setup)
  return transacted(async (transaction) => {
    await holdFixedRow(sequelize, 'setUp', transaction, 10)
    if ((await models.companies.count({ transaction })) > 0)
      throw new ApiError(409, 'alreadySetUp', 'This Circuitry already has a company. Log in.')
    return makeCompany(setup, passwordHash, transaction)
  })
}
/** One more company, by whoever keeps the host. @throws ApiError 409 where one of this name works here */
export async function addCompany(setup: Setup): Promise<PersonRow> {
  const { sequelize, models } = database()
  const passwordHash = await hashOf(setup)
  return transacted(async (transaction) => {
    await holdFixedRow(sequelize, 'setUp', transaction, 10)
    if (await models.companies.count({ where: { name: setup.company }, transaction }))
      throw new ApiError(409, 'companyThere', `A company called ${setup.company} is here already.`)
    return makeCompany(setup, passwordHash, transaction)
  })
}
