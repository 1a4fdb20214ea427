import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, name } from '../parts.schema'

/** What was mistyped of a box. What is left out stays. */
export const correctBoxInput = z.object({
  boxId: idSchema,
  name: name.optional(),
  roomId: idSchema.optional(),
  gangs: z.int().min(1).max(6).optional(),
  /** Far switches that were found: added to what is on record, never taken away. */
  farBoxIds: z.array(idSchema).max(6).optional(),
})
export type CorrectBox = z.infer<typeof correctBoxInput>

export const boxCorrectedPayload = correctBoxInput.extend({ was: z.object({ name: z.string(), room: z.string() }), ...consequence })
export type BoxCorrected = z.infer<typeof boxCorrectedPayload>
