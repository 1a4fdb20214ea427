import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence } from '../parts.schema'

export const requestCloseInput = z.object({
  grantId: idSchema,
  breakerId: idSchema,
  /** The ask everyone said clear to: then the box may be open and the tags suspended. */
  clearanceId: idSchema.nullable().default(null),
})
export type RequestClose = z.infer<typeof requestCloseInput>

export const closeGrantedPayload = requestCloseInput.extend({
  expiresAt: z.string().nullable(),
  ...consequence,
})
export type CloseGranted = z.infer<typeof closeGrantedPayload>
