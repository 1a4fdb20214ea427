import { z } from 'zod'
import { observations } from '../../commission/pairing/words'
import { idSchema } from '../../stream/command-envelope'

export const seeSignInput = z.object({ unitId: idSchema, seen: z.enum(observations) })
export type SeeSign = z.infer<typeof seeSignInput>

export const signSeenPayload = seeSignInput.extend({ madeAt: z.string() })
export type SignSeen = z.infer<typeof signSeenPayload>
