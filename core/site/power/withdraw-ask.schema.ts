import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const withdrawAskInput = z.object({
  askId: idSchema,
})
export type WithdrawAsk = z.infer<typeof withdrawAskInput>

export const askWithdrawnPayload = withdrawAskInput
export type AskWithdrawn = z.infer<typeof askWithdrawnPayload>
