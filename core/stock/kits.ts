import { orderFrom, type Order, type Supply } from './reorder'

/** Things that are sold together: what comes in is what is in it, never the kit itself. */
export interface Kit {
  id: string
  contents: readonly { articleId: string; quantity: number }[]
  supplies: readonly Supply[]
}
export interface Want {
  articleId: string
  wanted: number
  /** Days until it is wanted; null: no day is set. */
  days: number | null
  supplies: readonly Supply[]
}
/** What so many of an article are, piece by piece: of a kit, what is in it. */
export const opened = (kits: readonly Pick<Kit, 'id' | 'contents'>[], articleId: string, quantity: number) => {
  const kit = kits.find(({ id }) => id === articleId)
  return kit ? kit.contents.map((one) => ({ articleId: one.articleId, quantity: one.quantity * quantity })) : [{ articleId, quantity }]
}

/** Nobody sells it singly, or it comes too late: weighed as so much, cents. */
const cannotBeHad = 100_000_000
const tooLate = 10_000_000
const costOf = ({ supplies, wanted, days }: Want): number => {
  if (wanted <= 0) return 0
  const order = orderFrom(supplies, wanted, days)
  return order ? order.costCents + (order.late ? tooLate : 0) : cannotBeHad
}
/** What is left to be bought singly beside so many of a kit. */
const beside = (wants: readonly Want[], kit: Kit, count: number): Want[] =>
  wants.map((want) => {
    const inKit = kit.contents.find(({ articleId }) => articleId === want.articleId)?.quantity ?? 0
    return inKit ? { ...want, wanted: Math.max(0, want.wanted - inKit * count) } : want
  })

export interface KitOrder {
  kit: Kit
  order: Order
  /** What is wanted less of each article, bought singly. */
  instead: { articleId: string; quantity: number }[]
  /** Singly it costs so much more, cents; null: singly it could not be had, or not in time. */
  savesCents: number | null
}
/**
 * Kits to buy because what is wanted costs less so, or is had only so. What is in a kit and wanted by nobody counts for nothing.
 * Kits are taken one kind after the other, each time the one that saves most: exact for kits that share no article.
 */
export function buyAsKits(wants: readonly Want[], kits: readonly Kit[]): { kits: KitOrder[]; left: Want[] } {
  const orders: KitOrder[] = []
  let left = [...wants]
  for (;;) {
    const before = left.reduce((sum, want) => sum + costOf(want), 0)
    let best: { order: KitOrder; left: Want[]; saves: number } | null = null
    for (const kit of kits) {
      if (orders.some((one) => one.kit.id === kit.id)) continue
      const its = left.filter(({ articleId, wanted }) => wanted > 0 && kit.contents.some((one) => one.articleId === articleId))
      const most = Math.max(
        0,
        ...its.map(({ articleId, wanted }) => Math.ceil(wanted / kit.contents.find((one) => one.articleId === articleId)!.quantity)),
      )
      const days = its.flatMap((want) => want.days ?? []).reduce<number | null>((a, b) => (a === null ? b : Math.min(a, b)), null)
      for (let count = 1; count <= most; count++) {
        const order = orderFrom(kit.supplies, count, days)
        if (!order) continue
        const after = beside(left, kit, order.quantity)
        const saves = before - (order.costCents + (order.late ? tooLate : 0) + after.reduce((sum, want) => sum + costOf(want), 0))
        if (saves > (best?.saves ?? 0))
          best = {
            saves,
            left: after,
            order: {
              kit,
              order,
              instead: left.flatMap((want, index) => {
                const quantity = want.wanted - after[index]!.wanted
                return quantity > 0 ? [{ articleId: want.articleId, quantity }] : []
              }),
              savesCents: saves < tooLate ? saves : null,
            },
          }
      }
    }
    if (!best) return { kits: orders, left }
    orders.push(best.order)
    left = best.left
  }
}
