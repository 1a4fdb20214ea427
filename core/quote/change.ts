import type { Solution } from '../plan'
import type { QuoteContent, QuoteLine, Ticks } from './content.schema'
import { lineOf, sharedOf, type OfferSource } from './from-plan'
import { allTicked, priceOf, takenLines, type PricedLine, type QuotePrice } from './price'

/** What was agreed, with everything that was not taken left out. */
export function settled(content: QuoteContent, ticks: Ticks): QuoteContent {
  const lines = takenLines(content, ticks)
  return { ...content, lines, options: [], stages: content.stages.filter(({ id }) => lines.some(({ stageId }) => stageId === id)) }
}

/** Something that is in two gangs at once, or a point that nothing is agreed for any more; null: the change can be had. */
export function changeObjection(after: QuoteContent, agreed: QuoteContent): 'twice' | 'missing' | null {
  const places = after.lines.flatMap(({ devices }) => devices.map(({ boxId, gang }) => `${boxId}/${gang}`))
  if (new Set(places).size !== places.length) return 'twice'
  const solved = after.lines.flatMap(({ pointIds }) => pointIds)
  if (new Set(solved).size !== solved.length) return 'twice'
  return agreed.lines.some(({ pointIds }) => pointIds.some((id) => !solved.includes(id))) ? 'missing' : null
}

/** What is agreed once these solutions take the place of what was agreed for their points; all else keeps the prices of its day. */
export function changedContent(source: OfferSource, agreed: QuoteContent, solutions: readonly Solution[]): QuoteContent {
  const ids = new Set(solutions.flatMap(({ pointIds }) => pointIds))
  const kept = agreed.lines.filter(({ pointIds }) => !pointIds.some((id) => ids.has(id)))
  const shared = sharedOf(source, solutions)
  const { site } = source
  const lines = [...kept, ...solutions.map((solution) => lineOf(source, solution))]
  return {
    ...agreed,
    lines,
    options: [],
    stages: site.roomOrder.flatMap((id) => (lines.some(({ stageId }) => stageId === id) ? [{ id, name: site.rooms[id]!.name }] : [])),
    plates: { ...shared.plates, ...agreed.plates },
    hubs: { ...shared.hubs, ...agreed.hubs },
  }
}

export interface ChangePrice {
  before: QuotePrice
  after: QuotePrice
  /** With taxes; less than nothing: it comes back to the customer. */
  totalCents: number
  minutes: number
  /** Lines that are new, and those whose place they take. */
  added: QuoteLine[]
  dropped: QuoteLine[]
  /** Counted parts more, or less. */
  parts: { articleId: string; name: string; quantity: number }[]
  lines: PricedLine[]
}
/** What a change adds: the whole as it will be, less the whole as it was. Hubs, plates, travel and taxes follow by themselves. */
export function priceChange(agreed: QuoteContent, after: QuoteContent): ChangePrice {
  const [was, will] = [priceOf(agreed, allTicked(agreed)), priceOf(after, allTicked(after))]
  const parts = new Map<string, { articleId: string; name: string; quantity: number }>()
  const count = (all: QuotePrice['parts'], sign: 1 | -1) => {
    for (const { articleId, name, quantity } of all)
      parts.set(articleId, { articleId, name, quantity: (parts.get(articleId)?.quantity ?? 0) + sign * quantity })
  }
  count(will.parts, 1)
  count(was.parts, -1)
  const lines = new Map<string, PricedLine>()
  const put = (all: PricedLine[], sign: 1 | -1) => {
    for (const line of all) {
      const key = `${line.kind}|${line.text}|${line.taxId}`
      const known = lines.get(key) ?? { ...line, quantity: 0, cents: 0, minutes: line.minutes === undefined ? undefined : 0 }
      lines.set(key, {
        ...known,
        quantity: known.quantity + sign * line.quantity,
        cents: known.cents + sign * line.cents,
        ...(line.minutes === undefined ? {} : { minutes: (known.minutes ?? 0) + sign * line.minutes }),
      })
    }
  }
  put(will.lines, 1)
  put(was.lines, -1)
  return {
    before: was,
    after: will,
    totalCents: will.sum.totalCents - was.sum.totalCents,
    minutes: will.minutes - was.minutes,
    added: will.taken.filter(({ id }) => !was.taken.some((one) => one.id === id)),
    dropped: was.taken.filter(({ id }) => !will.taken.some((one) => one.id === id)),
    parts: [...parts.values()].filter(({ quantity }) => quantity !== 0),
    lines: [...lines.values()].filter(({ cents, quantity }) => cents !== 0 || quantity !== 0),
  }
}

/** A change without a new price and under the branch’s minutes needs a note only. */
export const needsNoteOnly = ({ totalCents, minutes }: Pick<ChangePrice, 'totalCents' | 'minutes'>, limitMinutes: number): boolean =>
  totalCents === 0 && Math.abs(minutes) < limitMinutes
