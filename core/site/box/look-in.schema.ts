import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** Plate off with the power on, nothing touched. */
export const lookInInput = z.object({
  boxId: idSchema,
  warnedIds: z.array(idSchema).max(8).default([]),
})
export type LookIn = z.infer<typeof lookInInput>

export const boxLookedIntoPayload = lookInInput.extend({
  alarms: z.array(z.string()),
})
export type BoxLookedInto = z.infer<typeof boxLookedIntoPayload>
