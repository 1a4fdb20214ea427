import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

export const guardBoxInput = z.object({
  boxId: idSchema,
  how: note.min(5),
})
export type GuardBox = z.infer<typeof guardBoxInput>

export const boxGuardedPayload = guardBoxInput.extend({
  ...consequence,
})
export type BoxGuarded = z.infer<typeof boxGuardedPayload>
