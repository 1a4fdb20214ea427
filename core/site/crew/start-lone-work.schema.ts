import { z } from 'zod'
import { name } from '../parts.schema'

export const startLoneWorkInput = z.object({
  contact: name,
  everyMinutes: z.int().min(10).max(120).default(30),
})
export type StartLoneWork = z.infer<typeof startLoneWorkInput>

export const soloStartedPayload = startLoneWorkInput.extend({
  dueAt: z.string(),
})
export type SoloStarted = z.infer<typeof soloStartedPayload>
