import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { farPositionSchema, pairEnd, signConsequence, volts } from '../parts.schema'
import { impedances } from '../reading'

export const takeReadingInput = z.object({
  proofId: idSchema,
  a: pairEnd,
  b: pairEnd,
  position: farPositionSchema.default([]),
  impedance: z.enum(impedances),
  volts,
  /** The neutral of the live point, or the neutral bar of the panel, against reference and conductor, V: tells a shift from a feed. */
  neutral: z.object({ toReference: volts, toConductor: volts }).nullable().default(null),
})
export type TakeReading = z.infer<typeof takeReadingInput>

export const readingTakenPayload = takeReadingInput.extend({
  ...signConsequence,
  verdict: z.string(),
  stopped: z.boolean(),
  boxId: z.string(),
  restores: z.array(z.number()),
})
export type ReadingTaken = z.infer<typeof readingTakenPayload>
