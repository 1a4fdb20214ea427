import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { breakerFacts } from '../survey.schema'

/** What was mistyped or not looked at. What is left out stays. */
export const correctBreakerInput = z.object({
  breakerId: idSchema,
  ...z.object(breakerFacts).partial().shape,
})
export type CorrectBreaker = z.infer<typeof correctBreakerInput>

export const breakerCorrectedPayload = correctBreakerInput.extend({ was: z.string() })
export type BreakerCorrected = z.infer<typeof breakerCorrectedPayload>
