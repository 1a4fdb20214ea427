import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { name } from '../../stream/words.schema'
import { partMoveKinds } from './words'

export const movePartInput = z.object({
  moveId: idSchema,
  articleId: idSchema,
  /** As the list calls it, for whoever reads this without the list. */
  name: z.string().trim().min(1).max(160),
  quantity: z.int().min(1).max(1000),
  as: z.enum(partMoveKinds),
  /** Where it is taken from; of what is used, the van. */
  fromId: idSchema,
  /** Where it goes; null: into the wall. */
  toId: idSchema.nullable(),
  /** What the scanner read; empty: taken by eye. */
  scanned: z.string().trim().max(200),
  /** It is in the hand, although the record says there is none. */
  inHand: z.boolean(),
})
export type MovePart = z.infer<typeof movePartInput>

export const partMovedPayload = movePartInput.extend({
  from: name,
  to: name.nullable(),
  /** The device model or the part that the article is. */
  refId: idSchema.nullable(),
})
export type PartMoved = z.infer<typeof partMovedPayload>
