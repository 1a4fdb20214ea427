import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

/**
 * A lead says that somebody who left things behind is off the site; what they left ends when a second person confirms.
 * `explained`: why the record still has them here.
 */
export const declareAbsentInput = z.object({
  personId: idSchema,
  reason: note.min(10),
  leftBuildingVerified: z.literal(true),
  explained: note.default(''),
})
export type DeclareAbsent = z.infer<typeof declareAbsentInput>

export const absenceDeclaredPayload = declareAbsentInput.extend({
  name: z.string(),
})
export type AbsenceDeclared = z.infer<typeof absenceDeclaredPayload>
