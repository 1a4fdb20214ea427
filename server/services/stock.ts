import { UniqueConstraintError, type Transaction } from 'sequelize'
import { v5 as uuidOf, v7 as uuid } from 'uuid'
import { writeRows } from '../../core/format/cells'
import type { PickLine, PurchaseLine, ReorderLine, StockLine, StockMoveLine, StockPlace, stock, BodyOf } from '../../core/protocol'
import { articleName } from '../../core/quote'
import { opened, reserved as keptBack } from '../../core/stock'
import { database } from '../database'
import type { StockMoveRow, StockPlaceRow } from '../database/tables/stock'
import { runTogether } from '../database/statements'
import { branchFor, jobFor, peopleNames, type Viewer } from './access'
import { articleOf, comingOf, kitsOf } from './article-rows'
import { ApiError, notFound } from './errors'
import { levelStatements } from './projections'
import { changeList } from './register'
import { reorderOf } from './reorder'

export const placesOf = async (companyId: string, branchId: string, transaction?: Transaction): Promise<StockPlace[]> =>
  (
    await database().models.stockPlaces.findAll({
      where: { companyId, branchId },
      order: [
        ['kind', 'ASC'],
        ['name', 'ASC'],
      ],
      transaction,
      raw: true,
    })
  ).map(({ id, name, kind, active }) => ({ id, branchId, name, kind, active: Boolean(active) }))

export async function readStock(viewer: Viewer, branchId: string): Promise<{ places: StockPlace[]; lines: StockLine[] }> {
  await branchFor(viewer, branchId)
  const { models } = database()
  const where = { companyId: viewer.companyId, branchId }
  const [places, levels, needs, purchases, kits] = await Promise.all([
    placesOf(viewer.companyId, branchId),
    models.stockLevels.findAll({ where, raw: true }),
    models.partNeeds.findAll({ where, raw: true }),
    models.purchases.findAll({ where, raw: true }),
    kitsOf(viewer.companyId, branchId),
  ])
  const lines = new Map<string, StockLine>()
  const at = (articleId: string) => {
    const known = lines.get(articleId) ?? { articleId, at: {}, reserved: 0, ordered: 0 }
    lines.set(articleId, known)
    return known
  }
  for (const { articleId, placeId, quantity } of levels) at(articleId).at[placeId] = quantity
  for (const need of needs) at(need.articleId).reserved += keptBack(need)
  for (const purchase of purchases) for (const { articleId, quantity } of comingOf(kits, purchase)) at(articleId).ordered += quantity
  return { places, lines: [...lines.values()] }
}

export async function addPlace(viewer: Viewer, { branchId, name, kind }: BodyOf<typeof stock.addPlace>): Promise<{ id: string }> {
  await branchFor(viewer, branchId)
  return changeList(viewer, 'stock', async (transaction) => {
    const row = await database().models.stockPlaces.create(
      { id: uuid(), companyId: viewer.companyId, branchId, name, kind, active: true },
      { transaction },
    )
    return { id: row.id }
  })
}

export async function changePlace(viewer: Viewer, id: string, input: BodyOf<typeof stock.changePlace>): Promise<{ id: string }> {
  return changeList(viewer, 'stock', async (transaction) => {
    const row = await placeOf(viewer.companyId, id, transaction)
    if (input.active === false) {
      const left = await database().models.stockLevels.findAll({
        where: { placeId: id },
        transaction,
        lock: transaction.LOCK.UPDATE,
        raw: true,
      })
      if (left.some(({ quantity }) => quantity !== 0))
        throw new ApiError(409, 'notEmpty', `${row.name} still holds parts. Move or count them away first.`)
    }
    // Nobody drives what is gone.
    if (input.active === false) await database().models.people.update({ vanId: null }, { where: { vanId: id }, transaction })
    await row.update(input, { transaction })
    return { id }
  })
}
async function placeOf(companyId: string, id: string, transaction: Transaction) {
  const row = await database().models.stockPlaces.findOne({ where: { id, companyId }, transaction })
  if (!row) throw notFound('This store or van')
  return row
}

/** How many a place has, held until the transaction ends: of two who take the last one, one gets it. */
async function heldLevel(place: StockPlaceRow, articleId: string, transaction: Transaction): Promise<number> {
  const row = await database().models.stockLevels.findOne({
    where: { placeId: place.id, articleId },
    transaction,
    lock: transaction.LOCK.UPDATE,
    raw: true,
  })
  return row?.quantity ?? 0
}

type MoveStock = BodyOf<typeof stock.moveStock>
/** One article of a move: by the moves that it takes, and what they leave. */
interface OneMove {
  id: string
  articleId: string
  quantity: number
}

/** Moves parts outside of a job. Never below nothing without somebody’s word that it is in their hand. A kit that comes in is its contents. */
export async function moveStock(
  viewer: Viewer,
  body: MoveStock,
  now = new Date(),
): Promise<{ id: string; from: number | null; to: number | null }> {
  const { id, branchId, articleId, kind, fromId, toId, quantity, purchaseId } = body
  await branchFor(viewer, branchId)
  const { models } = database()
  const work = () =>
    changeList(viewer, 'stock', async (transaction) => {
      const article = await models.articles.findOne({
        where: { id: articleId, companyId: viewer.companyId, branchId },
        transaction,
        raw: true,
      })
      if (!article) throw notFound('This article')
      const kits = await kitsOf(viewer.companyId, branchId, transaction)
      const isKit = kits.some((kit) => kit.id === articleId)
      if (isKit && kind !== 'receive')
        throw new ApiError(422, 'kitIsOpened', `${articleName(article)} is received, and lies here as what is in it: move that.`)
      const [from, to] = await Promise.all([
        fromId ? placeOf(viewer.companyId, fromId, transaction) : null,
        toId ? placeOf(viewer.companyId, toId, transaction) : null,
      ])
      for (const place of [from, to])
        if (place && (place.branchId !== branchId || !place.active))
          throw new ApiError(422, 'wrongPlace', `${place.name} is not in use at this branch.`)
      if (from && to && from.id === to.id) throw new ApiError(422, 'samePlace', 'It is there already.')
      // Each piece of a kit has a move of its own, known by the kit’s.
      const pieces = opened(kits, articleId, quantity)
        .map((one): OneMove => ({ ...one, id: isKit ? uuidOf(one.articleId, id) : id }))
        .sort((a, b) => a.articleId.localeCompare(b.articleId))
      const known = await models.stockMoves.findAll({ where: { id: pieces.map((piece) => piece.id) }, transaction, raw: true })
      if (
        known.some((one) => one.companyId !== viewer.companyId || one.jobId || !pieces.some((piece) => piece.articleId === one.articleId))
      )
        throw new ApiError(409, 'idTaken', 'Something else already has this id.')
      const answers = []
      for (const piece of pieces)
        answers.push(await moveOne(viewer, piece, { ...body, from, to, article, now, known: known.length > 0 }, transaction))
      if (purchaseId && !known.length) {
        const purchase = await models.purchases.findOne({
          where: { id: purchaseId, companyId: viewer.companyId, articleId },
          transaction,
          lock: transaction.LOCK.UPDATE,
        })
        if (!purchase) throw notFound('This order')
        await purchase.update({ arrived: purchase.arrived + quantity }, { transaction })
      }
      return { id, from: isKit ? null : answers[0]!.from, to: isKit ? null : answers[0]!.to }
    })
  try {
    return await work()
  } catch (error) {
    // The same move came twice in one moment: the other one stored it.
    if (error instanceof UniqueConstraintError) return work()
    throw error
  }
}

async function moveOne(
  viewer: Viewer,
  { id, articleId, quantity }: OneMove,
  {
    branchId,
    kind,
    note,
    inHand,
    from,
    to,
    article,
    now,
    known,
  }: MoveStock & { from: StockPlaceRow | null; to: StockPlaceRow | null; article: { name: string }; now: Date; known: boolean },
  transaction: Transaction,
): Promise<{ from: number | null; to: number | null }> {
  // In the order of their ids: two who move against each other do not wait in a circle.
  const held = new Map<string, number>()
  for (const place of [from, to].flatMap((one) => one ?? []).sort((a, b) => a.id.localeCompare(b.id)))
    held.set(place.id, await heldLevel(place, articleId, transaction))
  const levelOf = (place: StockPlaceRow | null) => (place ? held.get(place.id)! : null)
  if (known) return { from: levelOf(from), to: levelOf(to) }
  const row = { companyId: viewer.companyId, branchId, articleId, jobId: null, personId: viewer.personId, note, at: now }
  const moves: StockMoveRow[] = []
  if (kind === 'count') {
    const change = quantity - levelOf(to)!
    moves.push({
      ...row,
      id,
      fromPlaceId: change < 0 ? to!.id : null,
      toPlaceId: change < 0 ? null : to!.id,
      quantity: Math.abs(change),
      kind,
    })
  } else {
    const short = from ? quantity - levelOf(from)! : 0
    if (short > 0 && !inHand)
      throw new ApiError(
        409,
        'notThere',
        `${from!.name} has ${levelOf(from)} ${article.name} by the record. If you have it all the same, say so.`,
        { level: levelOf(from) },
      )
    if (short > 0) moves.push({ ...row, id: uuid(), fromPlaceId: null, toPlaceId: from!.id, quantity: short, kind: 'found' })
    moves.push({ ...row, id, fromPlaceId: from?.id ?? null, toPlaceId: to?.id ?? null, quantity, kind })
  }
  await database().models.stockMoves.bulkCreate(moves, { transaction })
  await runTogether(levelStatements(moves), transaction)
  const after = async (place: StockPlaceRow | null) => (place ? heldLevel(place, articleId, transaction) : null)
  return { from: await after(from), to: await after(to) }
}

export async function stockHistory(viewer: Viewer, articleId: string): Promise<StockMoveLine[]> {
  const { models } = database()
  const article = await models.articles.findOne({ where: { id: articleId, companyId: viewer.companyId }, raw: true })
  if (!article) throw notFound('This article')
  await branchFor(viewer, article.branchId)
  const rows = await models.stockMoves.findAll({
    where: { articleId, companyId: viewer.companyId },
    order: [['at', 'DESC']],
    limit: 200,
    raw: true,
  })
  const [places, names, jobs] = await Promise.all([
    models.stockPlaces.findAll({ where: { companyId: viewer.companyId }, raw: true }),
    peopleNames(viewer.companyId),
    models.jobs.findAll({ where: { id: [...new Set(rows.flatMap(({ jobId }) => jobId ?? []))] }, attributes: ['id', 'number'], raw: true }),
  ])
  const placeName = (id: string | null) => places.find((one) => one.id === id)?.name ?? null
  return rows.map(({ id, kind, quantity, fromPlaceId, toPlaceId, personId, jobId, note, at }) => ({
    id,
    kind,
    quantity,
    from: placeName(fromPlaceId),
    to: placeName(toPlaceId),
    who: names.get(personId) ?? '',
    job: jobs.find((one) => one.id === jobId)?.number ?? null,
    note,
    at: at.toISOString(),
  }))
}

export async function pickList(viewer: Viewer, jobId: string) {
  const job = await jobFor(viewer, jobId)
  const { models } = database()
  const where = { companyId: job.companyId, branchId: job.branchId }
  const [places, articles, needs, levels] = await Promise.all([
    placesOf(job.companyId, job.branchId),
    models.articles.findAll({ where, raw: true }),
    models.partNeeds.findAll({ where, raw: true }),
    models.stockLevels.findAll({ where, raw: true }),
  ])
  const all = articles.map(articleOf)
  const lines = needs
    .filter((need) => need.jobId === jobId)
    .flatMap((need): PickLine[] => {
      const article = all.find(({ id }) => id === need.articleId)
      if (!article) return []
      return [
        {
          articleId: article.id,
          name: articleName(article),
          shelf: article.shelf,
          gtin: article.gtin,
          bin: article.bin,
          sold: need.sold,
          picked: need.picked,
          used: need.used,
          others: needs.reduce((sum, other) => (other.jobId !== jobId && other.articleId === article.id ? sum + keptBack(other) : sum), 0),
          at: Object.fromEntries(
            levels.filter(({ articleId }) => articleId === article.id).map(({ placeId, quantity }) => [placeId, quantity]),
          ),
        },
      ]
    })
  const shelf = ({ shelf: name }: PickLine) => name || '~'
  lines.sort((a, b) => shelf(a).localeCompare(shelf(b), 'en', { numeric: true }) || a.name.localeCompare(b.name))
  return {
    places: places.filter(({ active }) => active),
    lines,
    known: all.flatMap(({ id, kind, refId, maker, name, gtin }) => (gtin ? [{ id, kind, refId, maker, name, gtin }] : [])),
  }
}

export async function reorderList(viewer: Viewer, branchId: string, now = new Date()): Promise<ReorderLine[]> {
  const branch = await branchFor(viewer, branchId)
  return reorderOf(branch, now)
}
export const reorderCsv = (lines: ReorderLine[]): string =>
  `\ufeff${writeRows(
    ['supplier', 'article', 'quantity', 'cost', 'needed', 'arrives', 'late'],
    lines
      .filter(({ quantity }) => quantity > 0)
      .map((line) => ({
        supplier: line.supplier ?? '',
        article: line.name,
        quantity: line.quantity,
        cost: line.costCents / 100,
        needed: line.neededOn ?? '',
        arrives: line.arrivesOn ?? '',
        late: line.late ? 'yes' : 'no',
      })),
  )}`

export async function orderParts(
  viewer: Viewer,
  { id, branchId, articleId, ...input }: BodyOf<typeof stock.orderParts>,
  now = new Date(),
): Promise<{ id: string }> {
  await branchFor(viewer, branchId)
  return changeList(viewer, 'stock', async (transaction) => {
    const { models } = database()
    const article = await models.articles.findOne({
      where: { id: articleId, companyId: viewer.companyId, branchId },
      transaction,
      raw: true,
    })
    if (!article) throw notFound('This article')
    const known = await models.purchases.findByPk(id, { transaction, raw: true })
    if (known && known.companyId !== viewer.companyId) throw new ApiError(409, 'idTaken', 'Something else already has this id.')
    if (!known)
      await models.purchases.create(
        { id, companyId: viewer.companyId, branchId, articleId, ...input, arrived: 0, personId: viewer.personId, orderedAt: now },
        { transaction },
      )
    return { id }
  })
}

export async function listPurchases(viewer: Viewer, branchId: string): Promise<PurchaseLine[]> {
  await branchFor(viewer, branchId)
  const { models } = database()
  const where = { companyId: viewer.companyId, branchId }
  const [rows, articles] = await Promise.all([
    models.purchases.findAll({ where, order: [['dueOn', 'ASC']], raw: true }),
    models.articles.findAll({ where, attributes: ['id', 'maker', 'name'], raw: true }),
  ])
  return rows
    .filter(({ quantity, arrived }) => arrived < quantity)
    .map(({ id, articleId, supplier, quantity, arrived, dueOn }) => {
      const article = articles.find((one) => one.id === articleId)
      return { id, articleId, name: article ? articleName(article) : '', supplier, quantity, arrived, dueOn: String(dueOn) }
    })
}
