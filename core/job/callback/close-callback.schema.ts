import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const closeCallbackInput = z.object({
  callbackId: idSchema,
  resolution: note.min(5),
})
export type CloseCallback = z.infer<typeof closeCallbackInput>

export const callbackClosedPayload = closeCallbackInput
export type CallbackClosed = z.infer<typeof callbackClosedPayload>
