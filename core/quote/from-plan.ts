import type { JobState } from '../job/state'
import { currencyOf } from '../money/money'
import type { MoneySettings } from '../money'
import { differenceOf, type HomeWays, type Solution } from '../plan'
import type { SiteState } from '../site'
import { inTrade } from '../units/trade-words'
import type { Article } from './article.schema'
import { articleName } from './article-words'
import type { QuoteContent, QuoteLine } from './content.schema'

export interface OfferSource {
  job: JobState
  site: SiteState
  articles: Article[]
  money: MoneySettings
  ways: HomeWays
}

/** A solution as a line of an offer. */
export function lineOf({ job, site, articles, ways }: OfferSource, solution: Solution): QuoteLine {
  const told = inTrade(ways.told[solution.id]!, site.schemeId)
  const points = solution.pointIds.map((id) => job.points[id]!)
  const parts = new Map<string, number>()
  for (const { articleId, quantity } of solution.parts) parts.set(articleId, (parts.get(articleId) ?? 0) + quantity)
  return {
    id: solution.id,
    stageId: points[0]!.roomId,
    pointIds: solution.pointIds,
    points: points.map(({ name }) => name),
    kind: solution.kind,
    what: told.what,
    because: told.because,
    loses: told.loses,
    leaves: told.leaves,
    offline: told.offline,
    colour: told.colour,
    parts: [...parts].map(([articleId, quantity]) => {
      const article = articles.find(({ id }) => id === articleId)!
      return { articleId, name: articleName(article), quantity, priceCents: article.priceCents! }
    }),
    minutes: solution.minutes,
    devices: solution.devices,
    needs: solution.needs.filter((key) => ways.problem.charges[key]?.money),
    onHub: solution.onHub,
  }
}

/** Plates and hubs that these solutions may need, with the prices of today. */
export function sharedOf({ articles, ways }: OfferSource, used: readonly Solution[]): Pick<QuoteContent, 'plates' | 'hubs'> {
  const { charges, hubs } = ways.problem
  const shared = (articleId: string, minutes: number) => {
    const article = articles.find(({ id }) => id === articleId)!
    return { articleId, name: articleName(article), priceCents: article.priceCents!, minutes }
  }
  return {
    plates: Object.fromEntries(
      Object.entries(charges).flatMap(([key, { money, articleId, minutes }]) =>
        money && articleId && used.some(({ needs }) => needs.includes(key)) ? [[key, shared(articleId, minutes)]] : [],
      ),
    ),
    hubs: Object.fromEntries(
      Object.entries(hubs).flatMap(([key, { articleId, minutes, holds, free }]) =>
        used.some(({ onHub }) => key in onHub) ? [[key, { ...shared(articleId, minutes), holds, free }]] : [],
      ),
    ),
  }
}

/** Another kind of solution, or one that does more or less: another maker’s model of the same is no option for a customer. */
function isAnotherThing(from: readonly Solution[], to: readonly Solution[]): boolean {
  const kinds = (solutions: readonly Solution[]) => [...new Set(solutions.map(({ kind }) => kind))].sort().join()
  const comfort = (solutions: readonly Solution[]) => solutions.reduce((sum, one) => sum + one.comfort * one.pointIds.length, 0)
  return kinds(from) !== kinds(to) || Math.abs(comfort(from) - comfort(to)) > 3
}

/**
 * An offer out of a plan: what is chosen, and as options where another plan differs.
 * @param optional of the other plan, the solutions that the customer may tick
 */
export function offerOf(
  source: OfferSource,
  chosen: readonly Solution[],
  other: readonly Solution[] | null,
  discountBasisPoints = 0,
): QuoteContent {
  const { site, money } = source
  const options = other
    ? differenceOf(chosen, other)
        .filter(({ from, to }) => to.length > 0 && isAnotherThing(from, to))
        .map(({ pointIds, from, to }) => ({
          id: [...pointIds].sort().join('+'),
          title: pointIds.map((id) => source.job.points[id]!.name).join(', '),
          lines: to.map((solution) => lineOf(source, solution)),
          insteadOf: from.map(({ id }) => id),
        }))
    : []
  const used = [...chosen, ...(other ?? [])]
  const rooms = new Set(used.map(({ pointIds }) => source.job.points[pointIds[0]!]!.roomId))
  return {
    currency: currencyOf(money, site.schemeId),
    hourlyCents: money.hourlyCents,
    travelCents: money.travelCents,
    taxes: money.taxes,
    taxOnParts: money.taxOnParts,
    taxOnLabour: money.taxOnLabour,
    taxBy: money.taxBy,
    roundToCents: money.roundToCents,
    depositBasisPoints: money.depositBasisPoints,
    discountBasisPoints,
    stages: site.roomOrder.flatMap((id) => (rooms.has(id) ? [{ id, name: site.rooms[id]!.name }] : [])),
    lines: chosen.map((solution) => lineOf(source, solution)),
    options,
    ...sharedOf(source, used),
  }
}
