import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** Somebody looked at what was done after its proof had ended, and it is right. */
export const clearDoubtInput = z.object({
  boxId: idSchema,
})
export type ClearDoubt = z.infer<typeof clearDoubtInput>

export const doubtClearedPayload = clearDoubtInput
export type DoubtCleared = z.infer<typeof doubtClearedPayload>
