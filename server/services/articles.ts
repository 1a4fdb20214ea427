import { UniqueConstraintError } from 'sequelize'
import { v7 as uuid } from 'uuid'
import type { Article, ArticleBody } from '../../core/quote/article.schema'
import type { sales, BodyOf } from '../../core/protocol'
import type { DeviceModel, Part } from '../../core/fit'
import type { SchemeId } from '../../core/units'
import { database } from '../database'
import { branchFor, isOffice, type Viewer } from './access'
import { articleOf, articleRow } from './article-rows'
import { listCatalogue, listParts } from './catalogue'
import { ApiError, notFound } from './errors'
import { changeList } from './register'
import { starterArticles, starterKitBodies } from './starter-articles'

/** The first list of a branch: invented, to be edited. */
export function starterRows(companyId: string, branchId: string, models: DeviceModel[], parts: Part[], schemeId: SchemeId) {
  const listed = starterArticles(models, parts, schemeId).map((body) => ({ id: uuid(), body }))
  const kits = starterKitBodies(listed).map((body) => ({ id: uuid(), body }))
  return [...listed, ...kits].map(({ id, body }) => articleRow(companyId, branchId, id, body, true))
}

export async function listArticles(viewer: Viewer, branchId: string): Promise<Article[]> {
  await branchFor(viewer, branchId)
  const rows = await database().models.articles.findAll({
    where: { companyId: viewer.companyId, branchId },
    order: [
      ['kind', 'ASC'],
      ['maker', 'ASC'],
      ['name', 'ASC'],
    ],
    raw: true,
  })
  // What things cost the company is the office’s business.
  return rows.map(articleOf).map((article) => (isOffice(viewer) ? article : { ...article, supplies: [] }))
}

/** A number under the bars, or a model, is one article’s only. */
async function oneOfEach<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof UniqueConstraintError)
      throw new ApiError(
        409,
        'articleTwice',
        'Another article of this branch has this number under its bars, or is this same model or part.',
      )
    throw error
  }
}

/** A kit holds things of this branch that are counted one by one; nothing else has contents. */
async function checkContents({ companyId }: Viewer, branchId: string, { kind, contents, bin }: ArticleBody): Promise<void> {
  const wrong = (message: string) => new ApiError(422, 'contents', message)
  if (kind !== 'kit') {
    if (contents.length) throw wrong('Only a kit has something in it.')
    return
  }
  if (!contents.length) throw wrong('Say what is in the kit.')
  if (bin) throw wrong('A kit is opened when it comes in: it is no bin.')
  if (new Set(contents.map(({ articleId }) => articleId)).size < contents.length) throw wrong('One article stands twice in the kit.')
  const rows = await database().models.articles.findAll({
    where: { companyId, branchId, id: contents.map(({ articleId }) => articleId) },
    raw: true,
  })
  const inside = rows.map(articleOf)
  if (inside.length < contents.length) throw wrong('What is in the kit is not on the list of this branch.')
  const no = inside.find((one) => one.kind === 'kit' || one.bin)
  if (no) throw wrong(`${no.name} is ${no.bin ? 'a bin' : 'a kit itself'}: it cannot be in a kit.`)
}

export async function addArticle(viewer: Viewer, { branchId, ...body }: BodyOf<typeof sales.addArticle>): Promise<{ id: string }> {
  await branchFor(viewer, branchId)
  await checkContents(viewer, branchId, body)
  const id = uuid()
  await oneOfEach(() =>
    changeList(viewer, 'catalogue', (transaction) =>
      database().models.articles.create(articleRow(viewer.companyId, branchId, id, body, true), { transaction }),
    ),
  )
  return { id }
}

export async function changeArticle(viewer: Viewer, id: string, input: BodyOf<typeof sales.changeArticle>): Promise<{ id: string }> {
  return oneOfEach(() =>
    changeList(viewer, 'catalogue', async (transaction) => {
      const row = await database().models.articles.findOne({ where: { id, companyId: viewer.companyId }, transaction })
      if (!row) throw notFound('This article')
      if (input.article) await checkContents(viewer, row.branchId, input.article)
      const active = input.active ?? row.active
      await row.update(input.article ? articleRow(viewer.companyId, row.branchId, id, input.article, active) : { active }, { transaction })
      return { id }
    }),
  )
}

const yearMs = 365.25 * 86_400_000
/** Callbacks and device-years of each model, over all branches. Units name their model in words, as it was called when it went in. */
export async function modelRecord(viewer: Viewer, now = new Date()): Promise<Record<string, { callbacks: number; deviceYears: number }>> {
  const { models } = database()
  const [catalogue, units, callbacks] = await Promise.all([
    models.models.findAll({ where: { companyId: viewer.companyId }, attributes: ['id', 'maker', 'name'], raw: true }),
    models.units.findAll({
      where: { companyId: viewer.companyId },
      attributes: ['id', 'model', 'installedAt', 'removedAt'],
      raw: true,
    }),
    models.callbacks.findAll({ where: { companyId: viewer.companyId }, attributes: ['unitId', 'causeKind'], raw: true }),
  ])
  const idOf = new Map(catalogue.map(({ id, maker, name }) => [`${maker} ${name}`, id]))
  const record: Record<string, { callbacks: number; deviceYears: number }> = {}
  for (const { id, model, installedAt, removedAt } of units) {
    const modelId = idOf.get(model)
    if (!modelId) continue
    const one = (record[modelId] ??= { callbacks: 0, deviceYears: 0 })
    one.deviceYears += Math.max(0, ((removedAt ?? now).getTime() - installedAt.getTime()) / yearMs)
    // What the network or the way of use caused says little of the model.
    one.callbacks += callbacks.filter(({ unitId, causeKind }) => unitId === id && causeKind !== 'network' && causeKind !== 'use').length
  }
  return record
}

/** What the lists hold and the articles of a branch do not yet, without prices: somebody sets them. */
export async function fillArticles(viewer: Viewer, branchId: string): Promise<{ added: number }> {
  const branch = await branchFor(viewer, branchId)
  const [catalogue, parts, articles] = await Promise.all([listCatalogue(viewer), listParts(viewer), listArticles(viewer, branchId)])
  const known = new Set(articles.map(({ refId }) => refId))
  const missing = starterArticles(
    catalogue.filter(({ active }) => active),
    parts.filter(({ active }) => active),
    branch.schemeId,
  ).filter(({ refId }) => refId && !known.has(refId))
  const rows = missing.map((body) =>
    articleRow(viewer.companyId, branchId, uuid(), { ...body, gtin: '', priceCents: null, shelf: '', supplies: [] }, true),
  )
  if (rows.length) await changeList(viewer, 'catalogue', (transaction) => database().models.articles.bulkCreate(rows, { transaction }))
  return { added: rows.length }
}
