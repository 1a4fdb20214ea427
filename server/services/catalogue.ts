import { v7 as uuid } from 'uuid'
import { deviceModelSchema, type DeviceModel, type ListedPart, type Part } from '../../core/fit'
import { partSchema } from '../../core/fit/part-schema'
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

export const partRow = (companyId: string, part: Part, active: boolean) => ({
  id: part.id,
  companyId,
  kind: part.kind,
  maker: part.maker,
  name: part.name,
  active,
  data: JSON.stringify(part),
})

export async function listParts(viewer: Viewer): Promise<ListedPart[]> {
  const rows = await database().models.parts.findAll({
    where: { companyId: viewer.companyId },
    order: [
      ['kind', 'ASC'],
      ['maker', 'ASC'],
      ['name', 'ASC'],
    ],
    raw: true,
  })
  return rows.map((row) => ({ ...partSchema.parse(JSON.parse(row.data)), active: Boolean(row.active) }))
}

export async function addPart(viewer: Viewer, input: BodyOf<typeof company.addPart>): Promise<{ id: string }> {
  const id = uuid()
  await changeList(viewer, 'catalogue', (transaction) =>
    database().models.parts.create(partRow(viewer.companyId, { ...input, id }, true), { transaction }),
  )
  return { id }
}

export async function changePart(viewer: Viewer, partId: string, input: BodyOf<typeof company.changePart>): Promise<{ id: string }> {
  return changeList(viewer, 'catalogue', async (transaction) => {
    const row = await database().models.parts.findOne({ where: { id: partId, companyId: viewer.companyId }, transaction })
    if (!row) throw notFound('This part')
    const active = input.active ?? row.active
    await row.update(input.part ? partRow(viewer.companyId, { ...input.part, id: partId }, active) : { active }, { transaction })
    return { id: partId }
  })
}
