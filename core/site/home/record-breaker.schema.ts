import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { breakerStates } from '../words'
import { breakerFacts } from '../survey.schema'

/** A breaker that nobody listed, as it sits in its panel; null for a disconnect outside one. */
export const recordBreakerInput = z.object({
  breakerId: idSchema,
  panelId: idSchema.nullable(),
  ...breakerFacts,
  /** How its lever was found. */
  state: z.enum(breakerStates),
})
export type RecordBreaker = z.infer<typeof recordBreakerInput>

export const breakerRecordedPayload = recordBreakerInput
export type BreakerRecorded = z.infer<typeof breakerRecordedPayload>
