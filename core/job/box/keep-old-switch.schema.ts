import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { gang } from '../parts.schema'

/** The old switch stays in this gang: no device goes in. Or undo. */
export const keepOldSwitchInput = z.object({
  boxId: idSchema,
  gang,
  stays: z.boolean(),
})
export type KeepOldSwitch = z.infer<typeof keepOldSwitchInput>

export const oldSwitchKeptPayload = keepOldSwitchInput
export type OldSwitchKept = z.infer<typeof oldSwitchKeptPayload>
