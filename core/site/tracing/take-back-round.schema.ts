import { z } from 'zod'

/** The newest round was seen or typed wrong. */
export const takeBackRoundInput = z.object({
  round: z.int().min(1),
})
export type TakeBackRound = z.infer<typeof takeBackRoundInput>

export const roundTakenBackPayload = takeBackRoundInput
export type RoundTakenBack = z.infer<typeof roundTakenBackPayload>
