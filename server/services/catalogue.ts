import { v7 as uuid } from 'uuid'
import { deviceModelSchema, type DeviceModel } from '../../core/fit'
import type { company, BodyOf, CatalogueModel } from '../../core/protocol'
import { database } from '../database'
import type { Viewer } from './access'
import { notFound } from './errors'
import { changeList } from './register'

export const modelRow = (companyId: string, model: DeviceModel, active: boolean) => ({
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
  await changeList(viewer, 'catalogue', (transaction) =>
    database().models.models.create(modelRow(viewer.companyId, { ...input, id }, true), { transaction }),
  )
  return { id }
}

export async function changeModel(viewer: Viewer, modelId: string, input: BodyOf<typeof company.changeModel>): Promise<{ id: string }> {
  return changeList(viewer, 'catalogue', async (transaction) => {
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
