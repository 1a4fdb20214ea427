import { z } from 'zod'

export const completeHandoverInput = z.object({})
export type CompleteHandover = z.infer<typeof completeHandoverInput>

export const handoverCompletedPayload = z.object({})
export type HandoverCompleted = z.infer<typeof handoverCompletedPayload>
