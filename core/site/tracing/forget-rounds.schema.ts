import { z } from 'zod'
import { note } from '../parts.schema'

export const forgetRoundsInput = z.object({
  reason: note.min(5),
})
export type ForgetRounds = z.infer<typeof forgetRoundsInput>

export const roundsForgottenPayload = forgetRoundsInput
export type RoundsForgotten = z.infer<typeof roundsForgottenPayload>
