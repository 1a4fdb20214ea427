import { z } from 'zod'
import { name } from '../parts.schema'

export const startSoloInput = z.object({
  contact: name,
  everyMinutes: z.int().min(10).max(120).default(30),
})
export type StartSolo = z.infer<typeof startSoloInput>

export const soloStartedPayload = startSoloInput.extend({
  dueAt: z.string(),
})
export type SoloStarted = z.infer<typeof soloStartedPayload>
