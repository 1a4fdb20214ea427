import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { wireReadingSchema } from '../../wiring/identify/found-box-schema'

export const readWiresInput = z.object({
  boxId: idSchema,
  readings: z.array(wireReadingSchema).min(1).max(80),
})
export type ReadWires = z.infer<typeof readWiresInput>

export const wiresReadPayload = readWiresInput
export type WiresRead = z.infer<typeof wiresReadPayload>
