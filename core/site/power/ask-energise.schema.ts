import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { energisePurposes } from '../words'

export const askEnergiseInput = z.object({
  askId: idSchema,
  breakerId: idSchema,
  boxId: idSchema.nullable().default(null),
  purpose: z.enum(energisePurposes),
  note: note.default(''),
})
export type AskEnergise = z.infer<typeof askEnergiseInput>

export const energiseAskedPayload = askEnergiseInput.extend({
  asks: z.array(z.string()),
})
export type EnergiseAsked = z.infer<typeof energiseAskedPayload>
