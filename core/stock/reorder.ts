import { mean, probit, sampleStandardDeviation } from 'simple-statistics'

/** What is known of how fast an article goes, and how long it takes to come. */
export interface Demand {
  /** Taken on each of the last days, days without any counted as none. */
  perDay: number[]
  leadDays: number
  /** How sure one wants to be not to run out while it comes: 0.95. */
  service: number
}
/**
 * The stock at which to order again: what goes while it comes, and a safety stock for the spread of use. Constant lead time,
 * normal demand: the textbook’s formula d·L + z·σ·√L (operations management, continuous review).
 * @returns pieces, not rounded
 */
export function reorderPoint({ perDay, leadDays, service }: Demand): { point: number; safety: number } {
  if (perDay.length < 2) return { point: 0, safety: 0 }
  const safety = probit(service) * sampleStandardDeviation(perDay) * Math.sqrt(leadDays)
  return { point: mean(perDay) * leadDays + Math.max(0, safety), safety: Math.max(0, safety) }
}

export interface Supply {
  supplier: string
  costCents: number
  leadDays: number
  packOf: number
}
export interface Order {
  supply: Supply
  /** In whole packs. */
  quantity: number
  costCents: number
  /** It arrives after it is wanted. */
  late: boolean
}
/**
 * Where to buy: the cheapest that arrives in time, packs counted whole; where none does, the first to arrive.
 * @param days until it is wanted; null: no day is set
 */
export function orderFrom(supplies: readonly Supply[], wanted: number, days: number | null): Order | null {
  if (wanted <= 0 || !supplies.length) return null
  const orders = supplies.map((supply): Order => {
    const quantity = Math.ceil(wanted / supply.packOf) * supply.packOf
    return { supply, quantity, costCents: quantity * supply.costCents, late: days !== null && supply.leadDays > days }
  })
  const inTime = orders.filter(({ late }) => !late)
  const least = (all: Order[], of: (one: Order) => number) => all.reduce((best, one) => (of(one) < of(best) ? one : best))
  return inTime.length ? least(inTime, ({ costCents }) => costCents) : least(orders, ({ supply }) => supply.leadDays)
}
