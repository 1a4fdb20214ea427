import { z } from 'zod'

export const confirmStoppedInput = z.object({})
export type ConfirmStopped = z.infer<typeof confirmStoppedInput>

export const stopConfirmedPayload = z.object({})
export type StopConfirmed = z.infer<typeof stopConfirmedPayload>
