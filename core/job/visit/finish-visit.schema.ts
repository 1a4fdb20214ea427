import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const finishVisitInput = z.object({
  visitId: idSchema,
})
export type FinishVisit = z.infer<typeof finishVisitInput>

export const visitFinishedPayload = finishVisitInput
export type VisitFinished = z.infer<typeof visitFinishedPayload>
