import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import type { ReorderLine } from '../../core/protocol'
import { articleName } from '../../core/quote'
import { buyAsKits, orderFrom, reorderPoint, reserved } from '../../core/stock'
import { database, type BranchRow } from '../database'
import { articleOf, comingOf } from './article-rows'

/** Use is looked at over so many days; how sure one wants to be not to run out. Common practice, no source. */
const daysOfUse = 90
const service = 0.95

/** What a branch is to buy: jobs served by their days from what lies here and is on its way, then what is kept against the spread of use. */
export async function reorderOf(branch: BranchRow, now: Date): Promise<ReorderLine[]> {
  const { models } = database()
  const where = { companyId: branch.companyId, branchId: branch.id }
  const today = DateTime.fromJSDate(now, { zone: branch.timezone }).startOf('day')
  const dayOf = (moment: Date) => DateTime.fromJSDate(moment, { zone: branch.timezone }).startOf('day')
  const [articles, levels, needs, purchases, uses] = await Promise.all([
    models.articles.findAll({ where, raw: true }),
    models.stockLevels.findAll({ where, raw: true }),
    models.partNeeds.findAll({ where, raw: true }),
    models.purchases.findAll({ where, raw: true }),
    models.stockMoves.findAll({
      where: { ...where, kind: ['use', 'scrap'], at: { [Op.gte]: today.minus({ days: daysOfUse }).toJSDate() } },
      attributes: ['articleId', 'quantity', 'at'],
      raw: true,
    }),
  ])
  const jobIds = [...new Set(needs.map(({ jobId }) => jobId))]
  const [jobs, visits] = await Promise.all([
    models.jobs.findAll({ where: { id: jobIds }, attributes: ['id', 'number', 'title'], raw: true }),
    models.visits.findAll({
      where: { jobId: jobIds, status: ['planned', 'onSite'], endsAt: { [Op.gte]: now } },
      attributes: ['jobId', 'startsAt'],
      order: [['startsAt', 'ASC']],
      raw: true,
    }),
  ])
  const dayOfJob = (jobId: string) => {
    const first = visits.find((visit) => visit.jobId === jobId)
    return first ? dayOf(first.startsAt).toISODate()! : null
  }
  const listed = articles.map(articleOf)
  const kits = listed.filter(({ kind }) => kind === 'kit')
  const coming = purchases.flatMap((purchase) => comingOf(kits, purchase))
  const daysTo = (on: string | null) =>
    on ? Math.max(0, Math.floor(DateTime.fromISO(on, { zone: branch.timezone }).diff(today, 'days').days)) : null
  const arrival = (days: number) => today.plus({ days }).toISODate()
  const wants = listed.flatMap((article) => {
    if (!article.active || article.bin || article.kind === 'kit') return []
    const own = <T extends { articleId: string }>(rows: T[]) => rows.filter(({ articleId }) => articleId === article.id)
    const onHand = own(levels).reduce((sum, { quantity }) => sum + quantity, 0)
    const ordered = own(coming).reduce((sum, { quantity }) => sum + quantity, 0)
    const perDay = Array.from({ length: daysOfUse }, () => 0)
    for (const { quantity, at } of own(uses)) {
      const ago = Math.floor(today.diff(dayOf(at), 'days').days)
      if (ago >= 0 && ago < daysOfUse) perDay[ago]! += quantity
    }
    const usual = article.supplies.length ? article.supplies.reduce((a, b) => (b.costCents < a.costCents ? b : a)) : null
    const { point, safety } = reorderPoint({ perDay, leadDays: usual?.leadDays ?? 0, service })
    // Days first, what has no day last; each takes from what is there or coming.
    let left = onHand + ordered
    const wanting = own(needs)
      .map((need) => ({ need: reserved(need), on: dayOfJob(need.jobId), job: jobs.find(({ id }) => id === need.jobId) }))
      .filter(({ need, job }) => need > 0 && job)
      .sort((a, b) => (a.on ?? '9999').localeCompare(b.on ?? '9999') || a.job!.number - b.job!.number)
      .map(({ need, on, job }) => {
        const short = Math.max(0, need - Math.max(0, left))
        left -= need
        return { need, id: job!.id, number: job!.number, title: job!.title, on, short }
      })
    const kept = wanting.reduce((sum, { need }) => sum + need, 0)
    const wanted = Math.max(0, Math.ceil(point - (onHand + ordered - kept) - 1e-9))
    const short = wanting.filter((one) => one.short > 0)
    if (wanted === 0 && short.length === 0) return []
    const neededOn = short.find(({ on }) => on)?.on ?? null
    return [
      {
        articleId: article.id,
        supplies: article.supplies,
        wanted,
        days: daysTo(neededOn),
        line: {
          articleId: article.id,
          name: articleName(article),
          onHand,
          reserved: kept,
          ordered,
          safety: Math.ceil(safety),
          wanted,
          neededOn,
          jobs: short.map(({ need: _, ...job }) => job),
        },
      },
    ]
  })
  const bought = buyAsKits(
    wants,
    kits.filter(({ active }) => active),
  )
  const nameOf = (articleId: string) => articleName(listed.find(({ id }) => id === articleId)!)
  const asKits = bought.kits.map(({ kit, order, instead, savesCents }): ReorderLine => {
    const its = wants.filter(({ articleId }) => instead.some((one) => one.articleId === articleId))
    const neededOn = its.flatMap(({ line }) => line.neededOn ?? []).sort()[0] ?? null
    return {
      articleId: kit.id,
      name: nameOf(kit.id),
      onHand: 0,
      reserved: 0,
      ordered: 0,
      safety: 0,
      wanted: order.quantity,
      neededOn,
      supplier: order.supply.supplier,
      quantity: order.quantity,
      costCents: order.costCents,
      arrivesOn: arrival(order.supply.leadDays),
      late: order.late,
      jobs: its.flatMap(({ line }) => line.jobs),
      inKits: 0,
      instead: { of: instead.map(({ articleId, quantity }) => ({ name: nameOf(articleId), quantity })), savesCents },
    }
  })
  const singly = wants.map(({ line, supplies, wanted, days }): ReorderLine => {
    const left = bought.left.find(({ articleId }) => articleId === line.articleId)!.wanted
    const order = orderFrom(supplies, left, days)
    return {
      ...line,
      supplier: order?.supply.supplier ?? null,
      quantity: order?.quantity ?? left,
      costCents: order?.costCents ?? 0,
      arrivesOn: order ? arrival(order.supply.leadDays) : null,
      late: order?.late ?? false,
      inKits: wanted - left,
      instead: null,
    }
  })
  return [...asKits, ...singly]
}
