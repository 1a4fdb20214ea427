import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

export const observeBreakerInput = z.object({
  breakerId: idSchema,
  state: z.enum(['closed', 'open', 'tripped']),
  /** did: this person just moved the lever · found: it was so, nobody knows since when. */
  how: z.enum(['did', 'found']).default('did'),
  note: note.default(''),
})
export type ObserveBreaker = z.infer<typeof observeBreakerInput>

export const breakerObservedPayload = observeBreakerInput.extend({
  ...consequence,
  late: z.boolean(),
  again: z.boolean(),
  knewSeq: z.number(),
})
export type BreakerObserved = z.infer<typeof breakerObservedPayload>
