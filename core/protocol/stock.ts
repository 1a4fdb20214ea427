import { z } from 'zod'
import { placeKinds } from '../stock/words'
import { idParam, instant, made } from './common'
import { contract } from './contract'

const branchId = z.uuid()
const place = z.strictObject({ id: z.uuid(), branchId, name: z.string(), kind: z.enum(placeKinds), active: z.boolean() })
export type StockPlace = z.infer<typeof place>
const count = z.int()
const line = z.strictObject({
  articleId: z.uuid(),
  /** How many each place has. */
  at: z.record(z.uuid(), count),
  /** Kept back for jobs: agreed and not used yet. */
  reserved: count,
  /** On its way. */
  ordered: count,
})
export type StockLine = z.infer<typeof line>
export const readStock = contract({
  route: 'GET /api/stock',
  summary: 'What a branch has: places, and of each article how many lie where, are kept back for jobs and are on their way.',
  access: 'crew',
  query: z.object({ branchId }),
  answer: z.strictObject({ places: z.array(place), lines: z.array(line) }),
})
const placeName = z.string().trim().min(1).max(80)
export const addPlace = contract({
  route: 'POST /api/stock/places',
  summary: 'Add a store or a van.',
  access: ['dispatcher', 'lead'],
  body: z.object({ branchId, name: placeName, kind: z.enum(placeKinds) }),
  answer: made,
})
export const changePlace = contract({
  route: 'PATCH /api/stock/places/:id',
  summary: 'Rename a place, or take it off; one that has something left is not taken off.',
  access: ['dispatcher', 'lead'],
  params: idParam,
  body: z.object({ name: placeName.optional(), active: z.boolean().optional() }),
  answer: made,
})
export const moveStock = contract({
  route: 'POST /api/stock/moves',
  summary: 'Receive, move, count, lend, take back or scrap. The same id again is the same move.',
  access: 'crew',
  body: z
    .object({
      id: z.uuid(),
      branchId,
      articleId: z.uuid(),
      kind: z.enum(['receive', 'move', 'count', 'loan', 'back', 'scrap']),
      fromId: z.uuid().nullable(),
      toId: z.uuid().nullable(),
      /** Of a count: how many there are. */
      quantity: z.int().min(0).max(10_000),
      note: z.string().trim().max(500),
      /** More than the record has: somebody says so with the thing in hand. */
      inHand: z.boolean(),
      purchaseId: z.uuid().nullable(),
    })
    .refine(({ kind, quantity }) => kind === 'count' || quantity > 0, { path: ['quantity'], message: 'At least one.' })
    .refine(
      ({ kind, fromId, toId }) =>
        ({
          receive: !fromId && toId,
          back: !fromId && toId,
          count: !fromId && toId,
          move: fromId && toId,
          loan: fromId && !toId,
          scrap: fromId && !toId,
        })[kind],
      { path: ['fromId'], message: 'This needs the place it comes from, or the place it goes to.' },
    ),
  answer: z.strictObject({ id: z.uuid(), from: count.nullable(), to: count.nullable() }),
})
const move = z.strictObject({
  id: z.uuid(),
  kind: z.string(),
  quantity: count,
  from: z.string().nullable(),
  to: z.string().nullable(),
  who: z.string(),
  job: z.int().nullable(),
  note: z.string(),
  at: instant,
})
export type StockMoveLine = z.infer<typeof move>
export const stockHistory = contract({
  route: 'GET /api/stock/articles/:id/moves',
  summary: 'Everything that happened to an article, newest first.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({ moves: z.array(move) }),
})
const reorder = z.strictObject({
  articleId: z.uuid(),
  name: z.string(),
  onHand: count,
  reserved: count,
  ordered: count,
  /** What is kept against the spread of use. */
  safety: count,
  wanted: count,
  /** The day the first job wants it; null: none has a day yet. */
  neededOn: z.iso.date().nullable(),
  supplier: z.string().nullable(),
  quantity: count,
  costCents: count,
  arrivesOn: z.iso.date().nullable(),
  /** It comes after it is wanted: these visits wait for it. */
  late: z.boolean(),
  jobs: z.array(z.strictObject({ id: z.uuid(), number: z.int(), title: z.string(), on: z.iso.date().nullable(), short: count })),
  /** So many of what is wanted come in kits that are bought. */
  inKits: count,
  /** Of a kit: what it is bought instead of, and how much more that would cost singly; null: singly it is not had, or not in time. */
  instead: z.strictObject({ of: z.array(z.strictObject({ name: z.string(), quantity: count })), savesCents: count.nullable() }).nullable(),
})
export type ReorderLine = z.infer<typeof reorder>
export const reorderList = contract({
  route: 'GET /api/stock/reorder',
  summary:
    'What to buy: what accepted jobs want by their days, with what is kept against the spread of use. JSON, or a purchase list as CSV.',
  access: ['dispatcher', 'lead'],
  query: z.object({ branchId, as: z.enum(['json', 'csv']).default('json') }),
  answer: z.strictObject({ lines: z.array(reorder) }),
  file: 'text/csv',
})
export const orderParts = contract({
  route: 'POST /api/stock/purchases',
  summary: 'Note that something was ordered: it is on its way.',
  access: ['dispatcher', 'lead'],
  body: z.object({
    id: z.uuid(),
    branchId,
    articleId: z.uuid(),
    supplier: z.string().trim().min(1).max(80),
    quantity: z.int().min(1).max(10_000),
    costCents: z.int().min(0).max(100_000_000),
    dueOn: z.iso.date(),
  }),
  answer: made,
})
const purchase = z.strictObject({
  id: z.uuid(),
  articleId: z.uuid(),
  name: z.string(),
  supplier: z.string(),
  quantity: count,
  arrived: count,
  dueOn: z.iso.date(),
})
export type PurchaseLine = z.infer<typeof purchase>
export const listPurchases = contract({
  route: 'GET /api/stock/purchases',
  summary: 'What is on its way.',
  access: 'crew',
  query: z.object({ branchId }),
  answer: z.strictObject({ purchases: z.array(purchase) }),
})
const pick = z.strictObject({
  articleId: z.uuid(),
  name: z.string(),
  shelf: z.string(),
  gtin: z.string(),
  bin: z.boolean(),
  sold: count,
  picked: count,
  used: count,
  /** Kept back for other jobs. */
  others: count,
  /** How many each place has. */
  at: z.record(z.uuid(), count),
})
export type PickLine = z.infer<typeof pick>
export const pickList = contract({
  route: 'GET /api/jobs/:id/picks',
  summary: 'What a job needs, by shelf, and where it lies; with what looks like it, for the scanner.',
  access: 'crew',
  params: idParam,
  answer: z.strictObject({
    places: z.array(place),
    lines: z.array(pick),
    /** Every article of the branch with a number under its bars. */
    known: z.array(
      z.strictObject({ id: z.uuid(), kind: z.string(), refId: z.uuid().nullable(), maker: z.string(), name: z.string(), gtin: z.string() }),
    ),
  }),
})
