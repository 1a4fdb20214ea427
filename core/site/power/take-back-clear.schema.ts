import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const takeBackClearInput = z.object({
  askId: idSchema,
})
export type TakeBackClear = z.infer<typeof takeBackClearInput>

export const clearTakenBackPayload = takeBackClearInput
export type ClearTakenBack = z.infer<typeof clearTakenBackPayload>
