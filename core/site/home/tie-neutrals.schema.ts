import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

export const tieNeutralsInput = z.object({
  breakerIds: z.array(idSchema).min(2).max(4),
  basis: note.min(3),
})
export type TieNeutrals = z.infer<typeof tieNeutralsInput>

export const neutralsTiedPayload = tieNeutralsInput.extend({
  ...consequence,
})
export type NeutralsTied = z.infer<typeof neutralsTiedPayload>
