/** Where parts lie. */
export const placeKinds = ['store', 'van'] as const
export type PlaceKind = (typeof placeKinds)[number]
export const placeWords: Record<PlaceKind, string> = { store: 'store', van: 'van' }
/** What is done with parts outside of a job, and in one. `found`: in the hand although the record had none. */
export const stockMoveKinds = ['receive', 'move', 'count', 'loan', 'back', 'scrap', 'pick', 'use', 'return', 'found'] as const
export type StockMoveKind = (typeof stockMoveKinds)[number]
export const stockMoveWords: Record<StockMoveKind, string> = {
  receive: 'received',
  move: 'moved',
  count: 'counted',
  loan: 'lent out',
  back: 'back from a loan',
  scrap: 'scrapped',
  pick: 'picked',
  use: 'used',
  return: 'brought back',
  found: 'found',
}
