import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, name } from '../parts.schema'

/** One box of the record is two boxes in the wall: the last gangs stand in one of their own. */
export const boxSplitPayload = z.object({
  boxId: idSchema,
  newId: idSchema,
  name,
  /** So many gangs stay. */
  stay: z.int().min(1).max(5),
  /** A point is switched from both: each is read in all positions of the other. */
  tied: z.boolean(),
  ...consequence,
})
export type BoxSplit = z.infer<typeof boxSplitPayload>
