import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { callSchema } from './call.schema'

export const openCallbackInput = z.object({
  callbackId: idSchema,
  unitId: idSchema,
  what: note.min(5),
  since: z.iso.date(),
  offlineInApp: z.boolean(),
  wallSwitchFlipped: z.boolean(),
  routerChanged: z.boolean(),
  breakerTripped: z.boolean(),
  /** Null: nobody asked, or a program of before that asked less. */
  call: callSchema.nullable().default(null),
})
export type OpenCallback = z.infer<typeof openCallbackInput>

export const callbackOpenedPayload = openCallbackInput
export type CallbackOpened = z.infer<typeof callbackOpenedPayload>
