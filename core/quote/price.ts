import { sumDocument, spreadDiscount, type DocumentSum, type TaxedLine } from '../money/document'
import { share, timesHalfEven } from '../money/money'
import type { QuoteContent, QuoteLine, Ticks } from './content.schema'

/** Hours of work that go into one visit of a person. Common practice, no source. */
const visitMinutes = 390

export interface PricedLine {
  text: string
  quantity: number
  cents: number
  taxId: string
  kind: 'parts' | 'labour' | 'travel' | 'discount'
  /** Of labour: which minutes it stands for. */
  minutes?: number
}
export interface QuotePrice {
  /** Solutions that are taken. */
  taken: QuoteLine[]
  lines: PricedLine[]
  sum: DocumentSum
  depositCents: number
  minutes: number
  visits: number
  hubs: Record<string, number>
  /** Counted parts with what is shared: what the job needs. */
  parts: { articleId: string; name: string; quantity: number; priceCents: number }[]
}

export const allTicked = (content: QuoteContent): Ticks => ({ stages: content.stages.map(({ id }) => id), options: [] })

/** The solutions that are taken: of ticked rooms, each option instead of what it replaces. */
export function takenLines({ lines, options }: QuoteContent, ticks: Ticks): QuoteLine[] {
  const chosen = options.filter(({ id }) => ticks.options.includes(id))
  const replaced = new Set(chosen.flatMap(({ insteadOf }) => insteadOf))
  return [...lines.filter(({ id }) => !replaced.has(id)), ...chosen.flatMap((option) => option.lines)].filter(({ stageId }) =>
    ticks.stages.includes(stageId),
  )
}

/** What an offer comes to with these ticks, to the cent: the same sum on the customer’s page, on paper and when it is signed. */
export function priceOf(content: QuoteContent, ticks: Ticks): QuotePrice {
  const taken = takenLines(content, ticks)
  const parts = new Map<string, QuotePrice['parts'][number]>()
  const add = (part: QuotePrice['parts'][number]) => {
    const known = parts.get(part.articleId)
    parts.set(part.articleId, known ? { ...known, quantity: known.quantity + part.quantity } : part)
  }
  for (const line of taken) for (const part of line.parts) add(part)
  let minutes = taken.reduce((sum, line) => sum + line.minutes, 0)
  for (const key of new Set(taken.flatMap(({ needs }) => needs))) {
    const plate = content.plates[key]
    if (!plate) continue
    add({ articleId: plate.articleId, name: plate.name, quantity: 1, priceCents: plate.priceCents })
    minutes += plate.minutes
  }
  const hubs: Record<string, number> = {}
  for (const [key, hub] of Object.entries(content.hubs)) {
    const devices = taken.reduce((sum, { onHub }) => sum + (onHub[key] ?? 0), 0)
    const count = Math.max(0, Math.ceil((devices - hub.free) / hub.holds))
    if (!count) continue
    hubs[key] = count
    minutes += hub.minutes * count
    add({ articleId: hub.articleId, name: hub.name, quantity: count, priceCents: hub.priceCents })
  }
  const visits = minutes > 0 ? Math.ceil(minutes / visitMinutes) : 0
  const lines: PricedLine[] = [...parts.values()].map(({ name, quantity, priceCents }) => ({
    text: name,
    quantity,
    cents: priceCents * quantity,
    taxId: content.taxOnParts,
    kind: 'parts',
  }))
  if (minutes > 0)
    lines.push(
      {
        text: 'Labour',
        quantity: 1,
        minutes,
        cents: timesHalfEven(content.hourlyCents, minutes / 60),
        taxId: content.taxOnLabour,
        kind: 'labour',
      },
      { text: 'Travel', quantity: visits, cents: content.travelCents * visits, taxId: content.taxOnLabour, kind: 'travel' },
    )
  const cents = lines.map((line) => line.cents)
  const discount = share(
    cents.reduce((sum, one) => sum + one, 0),
    content.discountBasisPoints,
  )
  const off = spreadDiscount(cents, discount)
  const taxed: TaxedLine[] = lines.map((line, index) => ({ cents: line.cents - off[index]!, taxId: line.taxId }))
  const sum = sumDocument(taxed, content)
  if (discount > 0) lines.push({ text: 'Discount', quantity: 1, cents: -discount, taxId: content.taxOnParts, kind: 'discount' })
  return {
    taken,
    lines,
    sum,
    depositCents: share(sum.totalCents, content.depositBasisPoints),
    minutes,
    visits,
    hubs,
    parts: [...parts.values()],
  }
}

/** What ticking an option now would add, with taxes. */
export function optionAdds(content: QuoteContent, ticks: Ticks, optionId: string): number {
  const others = ticks.options.filter((id) => id !== optionId)
  const total = (options: string[]) => priceOf(content, { ...ticks, options }).sum.totalCents
  return total([...others, optionId]) - total(others)
}
