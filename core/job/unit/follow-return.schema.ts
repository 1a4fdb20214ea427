import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note, serial } from '../parts.schema'
import { oldUnitFates } from '../words'
import { clearings, returnOutcomes, returnStages } from './return-words'

export const followReturnInput = z.object({
  serial,
  goes: z.enum(oldUnitFates),
  stage: z.enum(returnStages),
  /** By when it is to be sent, or an answer is to be here. */
  dueOn: z.iso.date().nullable().default(null),
  /** What the maker or the supplier calls it. */
  reference: z.string().trim().max(80).default(''),
  /** What of the home was taken out of it before it left. */
  cleared: z.enum(clearings).nullable().default(null),
  outcome: z.enum(returnOutcomes).nullable().default(null),
  /** What came back for it, in the branch’s money. */
  creditCents: z.int().min(0).max(100_000_000).nullable().default(null),
  note: note.default(''),
})
export type FollowReturn = z.infer<typeof followReturnInput>

export const returnFollowedPayload = followReturnInput.extend({ unitId: idSchema.nullable() })
export type ReturnFollowed = z.infer<typeof returnFollowedPayload>
