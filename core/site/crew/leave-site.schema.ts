import { z } from 'zod'
import { consequence, personSchema } from '../parts.schema'

export const leaveSiteInput = z.object({})
export type LeaveSite = z.infer<typeof leaveSiteInput>

export const siteLeftPayload = z.object({
  ...consequence,
  /** Everyone who left, when a whole crew ends its visit; null: its maker. */
  people: z.array(z.string()).nullable(),
  /** Who stays with an open box, by box. */
  handOver: z.record(z.string(), personSchema),
})
export type SiteLeft = z.infer<typeof siteLeftPayload>
