import { z } from 'zod'
import { currencyIds } from '../money/money'

const line = z.object({
  text: z.string(),
  quantity: z.int(),
  netCents: z.int(),
  taxId: z.string(),
  kind: z.enum(['parts', 'labour', 'travel', 'discount']),
})
/** Data for an invoice, for whatever keeps the books. All amounts are whole cents of the currency. */
export const invoiceSchema = z.object({
  format: z.literal('circuitry.invoice'),
  version: z.literal(1),
  number: z.string(),
  kind: z.enum(['quote', 'change']),
  signedAt: z.iso.datetime({ offset: true }),
  signer: z.string(),
  customer: z.object({ name: z.string(), phone: z.string(), email: z.string() }),
  home: z.object({ name: z.string(), address: z.string() }),
  currency: z.enum(currencyIds),
  lines: z.array(line),
  netCents: z.int(),
  taxes: z.array(z.object({ id: z.string(), name: z.string(), basisPoints: z.int(), onCents: z.int(), cents: z.int() })),
  roundingCents: z.int(),
  totalCents: z.int(),
  depositCents: z.int(),
  restCents: z.int(),
})
export type Invoice = z.infer<typeof invoiceSchema>
export const invoiceJsonSchema = (): object => z.toJSONSchema(invoiceSchema, { target: 'draft-2020-12' })
