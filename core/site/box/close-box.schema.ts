import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence } from '../parts.schema'

export const closeBoxInput = z.object({
  boxId: idSchema,
})
export type CloseBox = z.infer<typeof closeBoxInput>

export const boxClosedPayload = closeBoxInput.extend({
  ...consequence,
})
export type BoxClosed = z.infer<typeof boxClosedPayload>
