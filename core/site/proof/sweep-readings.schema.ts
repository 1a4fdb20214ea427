import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, farPositionSchema, pairEnd, volts } from '../parts.schema'
import { impedances } from '../reading'

export const sweepReadingsInput = z.object({
  proofId: idSchema,
  pairs: z
    .array(z.object({ a: pairEnd, b: pairEnd }))
    .min(1)
    .max(30, 'At most 30 readings are stored in one tap.'),
  position: farPositionSchema.default([]),
  impedance: z.enum(impedances),
  /** The highest of all of them. */
  highestVolts: volts,
})
export type SweepReadings = z.infer<typeof sweepReadingsInput>

export const readingsSweptPayload = sweepReadingsInput.extend({
  ...consequence,
  restores: z.array(z.number()),
})
export type ReadingsSwept = z.infer<typeof readingsSweptPayload>
