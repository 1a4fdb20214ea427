import { z } from 'zod'

export const pauseBandInput = z.object({ minutes: z.int().min(5).max(60).default(10) })
export type PauseBand = z.infer<typeof pauseBandInput>
export const bandPausedPayload = pauseBandInput.extend({ madeAt: z.string() })
export type BandPaused = z.infer<typeof bandPausedPayload>
