import { z } from 'zod'
import { currencyIds } from '../money/money'
import { lightColours, solutionKinds } from '../plan/words'

const cents = z.int().min(0).max(100_000_000)
const partLine = z.object({ articleId: z.uuid(), name: z.string(), quantity: z.int().min(1), priceCents: cents })
const shared = z.object({ articleId: z.uuid(), name: z.string(), priceCents: cents, minutes: z.number().min(0) })
/** One solution as it is offered, with the prices of that day. */
export const quoteLineSchema = z.object({
  id: z.string(),
  stageId: z.string(),
  pointIds: z.array(z.uuid()),
  points: z.array(z.string()),
  kind: z.enum(solutionKinds),
  what: z.string(),
  because: z.array(z.string()),
  loses: z.array(z.string()),
  leaves: z.array(z.string()),
  offline: z.enum(['wall', 'remote', 'nothing']),
  colour: z.enum(lightColours).nullable(),
  parts: z.array(partLine),
  minutes: z.number().min(0),
  devices: z.array(z.object({ boxId: z.uuid(), gang: z.int(), modelId: z.uuid() })),
  needs: z.array(z.string()),
  onHub: z.record(z.string(), z.int()),
})
/** An offer with everything that its sum follows from: it says the same on every screen and for ever. */
export const quoteContentSchema = z.object({
  currency: z.enum(currencyIds),
  hourlyCents: cents,
  travelCents: cents,
  taxes: z.array(z.object({ id: z.string(), name: z.string(), basisPoints: z.int() })),
  taxOnParts: z.string(),
  taxOnLabour: z.string(),
  taxBy: z.enum(['line', 'document']),
  roundToCents: z.int(),
  depositBasisPoints: z.int(),
  discountBasisPoints: z.int().min(0).max(10_000),
  stages: z.array(z.object({ id: z.string(), name: z.string() })),
  lines: z.array(quoteLineSchema),
  /** Ticked, its lines take the place of others. */
  options: z.array(z.object({ id: z.string(), title: z.string(), lines: z.array(quoteLineSchema), insteadOf: z.array(z.string()) })),
  plates: z.record(z.string(), shared),
  hubs: z.record(z.string(), shared.extend({ holds: z.int().min(1), free: z.int().min(0) })),
})
export type QuoteLine = z.infer<typeof quoteLineSchema>
export type QuoteContent = z.infer<typeof quoteContentSchema>
/** What of an offer is taken. */
export const ticksSchema = z.object({ stages: z.array(z.string()).max(60), options: z.array(z.string()).max(60) })
export type Ticks = z.infer<typeof ticksSchema>
