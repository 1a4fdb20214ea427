import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { roomPlaceSchema } from '../survey.schema'

/** Null: nobody knows any more. */
export const placeRoomInput = z.object({ roomId: idSchema, place: roomPlaceSchema.nullable() })
export type PlaceRoom = z.infer<typeof placeRoomInput>

export const roomPlacedPayload = placeRoomInput
export type RoomPlaced = z.infer<typeof roomPlacedPayload>
