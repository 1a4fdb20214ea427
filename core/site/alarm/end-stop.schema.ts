import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const endStopInput = z.object({
  stopId: idSchema,
  note: note.min(3),
})
export type EndStop = z.infer<typeof endStopInput>

export const workResumedPayload = endStopInput
export type WorkResumed = z.infer<typeof workResumedPayload>
