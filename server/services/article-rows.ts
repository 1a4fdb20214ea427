import type { Transaction } from 'sequelize'
import { articleBodySchema, type Article, type ArticleBody } from '../../core/quote/article.schema'
import { gtin14 } from '../../core/quote/gtin'
import { opened, type Kit } from '../../core/stock/kits'
import { database } from '../database'

/** An article as its row, and back. */
export const articleRow = (companyId: string, branchId: string, id: string, body: ArticleBody, active: boolean) => ({
  id,
  companyId,
  branchId,
  kind: body.kind,
  refId: body.refId,
  maker: body.maker,
  name: body.name,
  gtin: body.gtin ? gtin14(body.gtin) : null,
  priceCents: body.priceCents,
  active,
  data: JSON.stringify(body),
})
type Row = ReturnType<typeof articleRow>
export const articleOf = ({ id, branchId, active, data }: Pick<Row, 'id' | 'branchId' | 'active' | 'data'>): Article => ({
  ...articleBodySchema.parse(JSON.parse(data)),
  id,
  branchId,
  active: Boolean(active),
})

/** Kits of a branch, off the list or not: one that was ordered still comes in. */
export async function kitsOf(companyId: string, branchId: string, transaction?: Transaction): Promise<(Kit & { active: boolean })[]> {
  const rows = await database().models.articles.findAll({ where: { companyId, branchId, kind: 'kit' }, transaction, raw: true })
  return rows.map(articleOf).map(({ id, contents, supplies, active }) => ({ id, contents, supplies, active }))
}
/** What of an order has not arrived yet, piece by piece. */
export const comingOf = (
  kits: readonly Kit[],
  { articleId, quantity, arrived }: { articleId: string; quantity: number; arrived: number },
) => opened(kits, articleId, Math.max(0, quantity - arrived))
