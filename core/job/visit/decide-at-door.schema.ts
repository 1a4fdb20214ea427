import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { doorCheckIds, doorDecisions } from '../words'

export const decideAtDoorInput = z.object({
  visitId: idSchema,
  decision: z.enum(doorDecisions),
  answers: z.partialRecord(z.enum(doorCheckIds), z.enum(['yes', 'no'])),
  /** Why, where it is not begun, or what is left. */
  note: note.default(''),
})
export type DecideAtDoor = z.infer<typeof decideAtDoorInput>

export const doorDecidedPayload = decideAtDoorInput
export type DoorDecided = z.infer<typeof doorDecidedPayload>
