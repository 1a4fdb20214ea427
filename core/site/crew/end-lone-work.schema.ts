import { z } from 'zod'

export const endLoneWorkInput = z.object({})
export type EndLoneWork = z.infer<typeof endLoneWorkInput>

export const soloEndedPayload = z.object({})
export type SoloEnded = z.infer<typeof soloEndedPayload>
