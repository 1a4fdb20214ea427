import { v7 as uuid } from 'uuid'
import type { company, BodyOf } from '../../core/protocol'
import { branchSettingsSchema } from '../../core/units'
import { database } from '../database'
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
    return { id: row.id }
  })
}

export async function changeBranch(viewer: Viewer, branchId: string, input: BodyOf<typeof company.changeBranch>) {
  const branch = await branchFor(viewer, branchId)
  return changeList(viewer, 'settings', async (transaction) => {
    await database().models.branches.update(input, { where: { id: branch.id }, transaction })
    return { id: branch.id }
  })
}
