import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { name } from '../parts.schema'

/** A room that is new on record, or one by another name. */
export const recordRoomInput = z.object({ roomId: idSchema, name })
export type RecordRoom = z.infer<typeof recordRoomInput>

export const roomRecordedPayload = recordRoomInput.extend({ was: z.string().nullable() })
export type RoomRecorded = z.infer<typeof roomRecordedPayload>
