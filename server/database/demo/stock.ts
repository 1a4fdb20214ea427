import { v7 as uuid } from 'uuid'
import type { Viewer } from '../../services/access'
import { addPlace, moveStock } from '../../services/stock'
import { database } from '../index'

/** Of each kind so many at the store, and so many of the commonest on each van. */
const atStore: Record<string, number> = {
  device: 6,
  plate: 12,
  hub: 2,
  smartLamp: 10,
  guard: 8,
  remote: 6,
  lampHolder: 4,
  plugIn: 3,
  blank: 10,
}
/** Sold out just now, or nearly. */
const scarce: Record<string, number> = { 'Slate dimmer, no neutral': 0, 'Tide dimmer, with neutral': 1 }

/**
 * A store and vans of a branch with what lies there, by the moves that people would note.
 * @returns ids of the vans
 */
export async function stockVans(who: Viewer, branchId: string, vans: string[], now: Date): Promise<string[]> {
  const { id: store } = await addPlace(who, { branchId, name: 'Store', kind: 'store' })
  const places: string[] = []
  for (const name of vans) places.push((await addPlace(who, { branchId, name, kind: 'van' })).id)
  const articles = await database().models.articles.findAll({ where: { branchId }, order: [['name', 'ASC']], raw: true })
  const at = (days: number) => new Date(now.getTime() - days * 86_400_000)
  for (const { id: articleId, kind, name } of articles) {
    const quantity = scarce[name] ?? atStore[kind] ?? 0
    if (!quantity) continue
    const move = (kindOf: 'receive' | 'move', fromId: string | null, toId: string, many: number, days: number) =>
      moveStock(
        who,
        { id: uuid(), branchId, articleId, kind: kindOf, fromId, toId, quantity: many, note: '', inHand: false, purchaseId: null },
        at(days),
      )
    await move('receive', null, store, quantity, 20)
    if (kind === 'plate' && quantity > 4) for (const van of places) await move('move', store, van, 2, 9)
  }
  return places
}
