import { z } from 'zod'
import { currencyIds } from './money'

const cents = z.int().min(0).max(10_000_000)
/** What a branch counts with. Defaults: common practice, no source; a company sets its own. */
export const moneySettingsSchema = z
  .object({
    /** Null: as is usual under the supply. */
    currency: z.enum(currencyIds).nullable().default(null),
    hourlyCents: cents.default(8400),
    /** For each visit. */
    travelCents: cents.default(4500),
    taxes: z
      .array(
        z.object({ id: z.string().trim().min(1).max(12), name: z.string().trim().min(1).max(40), basisPoints: z.int().min(0).max(5000) }),
      )
      .min(1)
      .max(4)
      .default([{ id: 'usual', name: 'Sales tax', basisPoints: 825 }]),
    /** The taxes that parts and that labour stand under. */
    taxOnParts: z.string().default('usual'),
    taxOnLabour: z.string().default('usual'),
    taxBy: z.enum(['line', 'document']).default('document'),
    roundToCents: z.union([z.literal(1), z.literal(5), z.literal(10), z.literal(100)]).default(1),
    depositBasisPoints: z.int().min(0).max(10_000).default(3000),
    quoteDays: z.int().min(1).max(180).default(30),
    /** A change on site without a new price and under so many minutes needs a note only. */
    noteOnlyMinutes: z.int().min(0).max(120).default(15),
  })
  .refine(
    ({ taxes, taxOnParts, taxOnLabour }) => [taxOnParts, taxOnLabour].every((id) => taxes.some((tax) => tax.id === id)),
    'Parts and labour each stand under one of the taxes.',
  )
export type MoneySettings = z.infer<typeof moneySettingsSchema>
