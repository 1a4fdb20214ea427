import { z } from 'zod'

export const checkInInput = z.object({})
export type CheckIn = z.infer<typeof checkInInput>

export const checkedInPayload = z.object({
  dueAt: z.string(),
})
export type CheckedIn = z.infer<typeof checkedInPayload>
