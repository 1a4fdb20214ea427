import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { letter } from '../../units/letter'
import { referenceSeenSchema } from '../parts.schema'
import { referenceKinds } from '../words'

export const seeReferenceInput = z.object({
  proofId: idSchema,
  reference: z.enum(referenceKinds),
  /** The conductor that is the reference, when it is the ground of the box. */
  letter: letter.nullable().default(null),
  seen: referenceSeenSchema,
  /** The second look at the same reference, after the readings. */
  again: z.boolean().default(false),
})
export type SeeReference = z.infer<typeof seeReferenceInput>

export const referenceSeenPayload = seeReferenceInput.extend({
  warning: z.string().nullable(),
  anew: z.boolean(),
})
export type ReferenceSeenEntry = z.infer<typeof referenceSeenPayload>
