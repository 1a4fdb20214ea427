import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { signConsequence } from '../parts.schema'

/** What was seen in the rooms with the breakers open that the record has open now. */
export const observeRoundInput = z.object({
  seen: z
    .record(idSchema, z.enum(['on', 'off', 'part']))
    .refine((seen) => Object.keys(seen).length > 0, 'Say what was seen of one box at least.'),
})
export type ObserveRound = z.infer<typeof observeRoundInput>

export const roundSeenPayload = observeRoundInput.extend({
  open: z.array(z.string()),
  ...signConsequence,
})
export type RoundSeen = z.infer<typeof roundSeenPayload>
