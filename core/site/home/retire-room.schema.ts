import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const retireRoomInput = z.object({ roomId: idSchema })
export type RetireRoom = z.infer<typeof retireRoomInput>

export const roomRetiredPayload = retireRoomInput
export type RoomRetired = z.infer<typeof roomRetiredPayload>
