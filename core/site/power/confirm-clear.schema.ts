import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const confirmClearInput = z.object({
  askId: idSchema,
})
export type ConfirmClear = z.infer<typeof confirmClearInput>

export const clearConfirmedPayload = confirmClearInput.extend({
  breakerId: z.string(),
  tagIds: z.array(z.string()),
})
export type ClearConfirmed = z.infer<typeof clearConfirmedPayload>
