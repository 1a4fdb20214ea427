import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { personRoles } from '../../stream/words'
import { consequence } from '../parts.schema'

/** What the office changed about a person: role and licence count at every decision. */
export const notePersonInput = z.object({
  personId: idSchema,
  licensed: z.boolean(),
  role: z.enum(personRoles),
  active: z.boolean(),
})
export type NotePerson = z.infer<typeof notePersonInput>

export const personNotedPayload = notePersonInput.extend({
  ...consequence,
})
export type PersonNoted = z.infer<typeof personNotedPayload>
