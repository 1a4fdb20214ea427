import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const settleInheritedInput = z.object({ unitId: idSchema, is: z.enum(['kept', 'cleared']) })
export type SettleInherited = z.infer<typeof settleInheritedInput>
export const inheritedSettledPayload = settleInheritedInput
export type InheritedSettled = z.infer<typeof inheritedSettledPayload>
