import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

export const makeSafeInput = z.object({
  boxId: idSchema,
  how: note.min(5),
})
export type MakeSafe = z.infer<typeof makeSafeInput>

export const boxGuardedPayload = makeSafeInput.extend({
  ...consequence,
})
export type BoxGuarded = z.infer<typeof boxGuardedPayload>
