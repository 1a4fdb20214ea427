import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const markOffLimitsInput = z.object({
  breakerId: idSchema,
  reason: z.string().trim().min(3).max(200).nullable(),
})
export type MarkOffLimits = z.infer<typeof markOffLimitsInput>

export const offLimitsMarkedPayload = markOffLimitsInput
export type OffLimitsMarked = z.infer<typeof offLimitsMarkedPayload>
