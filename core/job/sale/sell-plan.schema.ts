import { z } from 'zod'
import { currencyIds } from '../../money/money'
import { solutionKinds } from '../../plan/words'
import { idSchema } from '../../stream/command-envelope'
import { name } from '../../stream/words.schema'
import { gang } from '../parts.schema'

/** What was agreed for some points: what goes where, and out of which articles. */
export const soldSolutionSchema = z.object({
  pointIds: z.array(idSchema).min(1).max(4),
  kind: z.enum(solutionKinds),
  what: z.string().trim().min(1).max(300),
  devices: z.array(z.object({ boxId: idSchema, gang, modelId: idSchema })).max(12),
  minutes: z.number().min(0).max(10_000),
})
export type SoldSolution = z.infer<typeof soldSolutionSchema>
export const sellPlanInput = z.object({
  saleId: idSchema,
  /** quote: the first agreement · change: what became otherwise on site. */
  kind: z.enum(['quote', 'change']),
  /** As it stands on the paper: 1007-2. */
  number: z.string().trim().min(1).max(20),
  signer: name,
  currency: z.enum(currencyIds),
  /** With taxes; of a change what it adds, which may be less than nothing. */
  totalCents: z.int().min(-100_000_000).max(100_000_000),
  solutions: z.array(soldSolutionSchema).max(200),
  /** Counted parts, of a change what it adds or takes off. */
  parts: z
    .array(z.object({ articleId: idSchema, name: z.string().trim().min(1).max(160), quantity: z.int().min(-10_000).max(10_000) }))
    .max(300),
})
export type SellPlan = z.infer<typeof sellPlanInput>

export const planSoldPayload = sellPlanInput
export type PlanSold = z.infer<typeof planSoldPayload>
