import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, name, strokesSchema } from '../parts.schema'

/** `household`: nobody else in the company can confirm; a named person at the home signs on the glass. */
export const confirmAbsentInput = z.object({
  personId: idSchema,
  household: z.object({ name, strokes: strokesSchema }).nullable().default(null),
})
export type ConfirmAbsent = z.infer<typeof confirmAbsentInput>

export const absentEndedPayload = confirmAbsentInput.extend({
  ...consequence,
  name: z.string(),
  tagIds: z.array(z.string()),
  breakerIds: z.array(z.string()),
  declaredBy: z.string(),
  reason: z.string(),
})
export type AbsentEnded = z.infer<typeof absentEndedPayload>
