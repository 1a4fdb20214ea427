import { z } from 'zod'
import { consequence } from '../parts.schema'
import { housingKinds } from '../survey-words'

/** What kind of home it is, who built it, and whether one of its conductors is tied to earth. What is left out stays. */
export const describeHomeInput = z.object({
  housing: z.enum(housingKinds).nullable().optional(),
  builder: z.string().trim().max(80).optional(),
  /** False: neither conductor is tied to earth, both are live. Null: not said. */
  neutralEarthed: z.boolean().nullable().optional(),
})
export type DescribeHome = z.infer<typeof describeHomeInput>

export const homeDescribedPayload = describeHomeInput.extend(consequence)
export type HomeDescribed = z.infer<typeof homeDescribedPayload>
