import type { PlaceKind, StockMoveKind } from '../../../core/stock/words'
import { as, date, flag, id, int, orNull, table, text, time, type RowOf } from './columns'

export const stockPlaces = table('stock_places', { id, companyId: id, branchId: id, name: text, kind: as<PlaceKind>(text), active: flag })
export type StockPlaceRow = RowOf<typeof stockPlaces>

export const stockMoves = table('stock_moves', {
  id,
  companyId: id,
  branchId: id,
  articleId: id,
  fromPlaceId: orNull(id),
  toPlaceId: orNull(id),
  quantity: int,
  kind: as<StockMoveKind>(text),
  jobId: orNull(id),
  personId: id,
  note: text,
  at: time,
})
export type StockMoveRow = RowOf<typeof stockMoves>

export const stockLevels = table('stock_levels', { placeId: id, articleId: id, companyId: id, branchId: id, quantity: int }, [
  'placeId',
  'articleId',
])

export const partNeeds = table('part_needs', { jobId: id, articleId: id, companyId: id, branchId: id, sold: int, picked: int, used: int }, [
  'jobId',
  'articleId',
])

export const purchases = table('purchases', {
  id,
  companyId: id,
  branchId: id,
  articleId: id,
  supplier: text,
  quantity: int,
  arrived: int,
  costCents: int,
  personId: id,
  orderedAt: time,
  dueOn: date,
})
