import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const cancelVisitInput = z.object({
  visitId: idSchema,
  reason: note.min(3),
})
export type CancelVisit = z.infer<typeof cancelVisitInput>

export const visitCancelledPayload = cancelVisitInput
export type VisitCancelled = z.infer<typeof visitCancelledPayload>
