import { z } from 'zod'

export const endSoloInput = z.object({})
export type EndSolo = z.infer<typeof endSoloInput>

export const soloEndedPayload = z.object({})
export type SoloEnded = z.infer<typeof soloEndedPayload>
