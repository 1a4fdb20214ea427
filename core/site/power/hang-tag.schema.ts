import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const hangTagInput = z.object({
  tagId: idSchema,
  breakerId: idSchema,
  lock: z.string().trim().max(60).default(''),
  measure: note.default(''),
  /** The company's lock for the night: it keeps the breaker open, and makes nobody's hands safe. */
  company: z.boolean().default(false),
  /** What the notice at the breaker says. */
  notice: note.default(''),
})
export type HangTag = z.infer<typeof hangTagInput>

export const tagHungPayload = hangTagInput
export type TagHung = z.infer<typeof tagHungPayload>
