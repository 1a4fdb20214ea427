import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const registerWarrantyInput = z.object({
  unitIds: z.array(idSchema).min(1).max(200),
  /** What the maker gave back; empty: it gives none. */
  number: z.string().trim().max(80),
  /** The last day of it; null: not said. */
  until: z.iso.date().nullable(),
})
export type RegisterWarranty = z.infer<typeof registerWarrantyInput>
export const warrantyRegisteredPayload = registerWarrantyInput
export type WarrantyRegistered = RegisterWarranty
