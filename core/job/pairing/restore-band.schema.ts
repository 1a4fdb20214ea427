import { z } from 'zod'

export const restoreBandInput = z.object({})
export type RestoreBand = z.infer<typeof restoreBandInput>
export const bandRestoredPayload = restoreBandInput
export type BandRestored = z.infer<typeof bandRestoredPayload>
