import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, name } from '../parts.schema'
import { boxKinds } from '../survey-words'

/** A box that nobody listed: in the wall, at a fixture or a motor, or a junction. */
export const recordBoxInput = z.object({
  boxId: idSchema,
  roomId: idSchema,
  name,
  kind: z.enum(boxKinds),
  gangs: z.int().min(1).max(6),
  /** What feeds it, as far as anybody knows; none: the feed is not known. */
  breakerIds: z.array(idSchema).max(12),
  /** Boxes whose switches act on something in here, and that this one acts on. */
  farBoxIds: z.array(idSchema).max(6),
})
export type RecordBox = z.infer<typeof recordBoxInput>

export const boxRecordedPayload = recordBoxInput.extend(consequence)
export type BoxRecorded = z.infer<typeof boxRecordedPayload>
