import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const takeOverGuardInput = z.object({
  boxId: idSchema,
})
export type TakeOverGuard = z.infer<typeof takeOverGuardInput>

export const guardTakenOverPayload = takeOverGuardInput
export type GuardTakenOver = z.infer<typeof guardTakenOverPayload>
