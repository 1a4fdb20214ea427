import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const askOpenInput = z.object({
  askId: idSchema,
  breakerId: idSchema,
  boxId: idSchema.nullable().default(null),
  note: note.default(''),
})
export type AskOpen = z.infer<typeof askOpenInput>

export const openAskedPayload = askOpenInput
export type OpenAsked = z.infer<typeof openAskedPayload>
