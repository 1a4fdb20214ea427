import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const hearBackInput = z.object({
  callbackId: idSchema,
  /** It still works, as the customer says. */
  works: z.boolean(),
  said: note,
})
export type HearBack = z.infer<typeof hearBackInput>

export const heardBackPayload = hearBackInput
export type HeardBack = z.infer<typeof heardBackPayload>
