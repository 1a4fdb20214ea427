import { deviceModelSchema } from '../../core/fit'
import { partSchema } from '../../core/fit/part-schema'
import { starterRows } from './articles'
import { v7 as uuid } from 'uuid'
import type { company, BodyOf } from '../../core/protocol'
import type { Transaction } from 'sequelize'
import { branchSettingsSchema, type SchemeId } from '../../core/units'
import { database } from '../database'
import { changesOf, leaveLine } from './access-record'
import { branchFor, isOffice, needRole, type Viewer } from './access'
import { changeList } from './register'

export async function listBranches(viewer: Viewer) {
  const rows = await database().models.branches.findAll({
    where: isOffice(viewer) ? { companyId: viewer.companyId } : { companyId: viewer.companyId, id: viewer.branchId },
    order: [['name', 'ASC']],
  })
  return rows.map(({ id, name, schemeId, timezone, settings }) => ({
    id,
    name,
    schemeId,
    timezone,
    settings: branchSettingsSchema.parse(settings),
  }))
}

export async function addBranch(viewer: Viewer, input: BodyOf<typeof company.addBranch>) {
  needRole(viewer, ['lead'], 'Only a lead opens a branch.')
  return changeList(viewer, 'settings', async (transaction) => {
    const row = await database().models.branches.create(
      { id: uuid(), companyId: viewer.companyId, ...input, settings: branchSettingsSchema.parse({}) },
      { transaction },
    )
    await stockUp(viewer.companyId, row.id, input.schemeId, transaction)
    await leaveLine(viewer, { deed: 'branch', what: 'added', refId: row.id }, transaction)
    return { id: row.id }
  })
}

/** A new branch begins with a list of what the company’s own lists hold under its supply. */
export async function stockUp(companyId: string, branchId: string, schemeId: SchemeId, transaction?: Transaction): Promise<void> {
  const { models } = database()
  const where = { companyId, active: true }
  const [catalogue, parts] = await Promise.all([
    models.models.findAll({ where, transaction, raw: true }),
    models.parts.findAll({ where, transaction, raw: true }),
  ])
  const rows = starterRows(
    companyId,
    branchId,
    catalogue.map(({ data }) => deviceModelSchema.parse(JSON.parse(data))),
    parts.map(({ data }) => partSchema.parse(JSON.parse(data))),
    schemeId,
  )
  await models.articles.bulkCreate(rows, { transaction })
}

export async function changeBranch(viewer: Viewer, branchId: string, input: BodyOf<typeof company.changeBranch>) {
  const branch = await branchFor(viewer, branchId)
  return changeList(viewer, 'settings', async (transaction) => {
    const before = { ...branchSettingsSchema.parse(branch.settings), name: branch.name, timezone: branch.timezone }
    await database().models.branches.update(input, { where: { id: branch.id }, transaction })
    const { settings, ...rest } = input
    const after = { ...before, ...(settings ? branchSettingsSchema.parse(settings) : {}), ...rest }
    const changes = changesOf(before, after, Object.keys(after) as (keyof typeof after)[])
    if (changes.length) await leaveLine(viewer, { deed: 'branch', what: 'changed', refId: branch.id, changes }, transaction)
    return { id: branch.id }
  })
}
