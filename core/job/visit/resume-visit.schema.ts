import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** It was ended by mistake, or somebody came back. */
export const resumeVisitInput = z.object({
  visitId: idSchema,
})
export type ResumeVisit = z.infer<typeof resumeVisitInput>

export const visitResumedPayload = resumeVisitInput
export type VisitResumed = z.infer<typeof visitResumedPayload>
