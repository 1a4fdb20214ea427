import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { reason } from '../survey.schema'

/** Two boxes that were said to switch something together, and do not. */
export const untieSwitchesInput = z.object({ boxId: idSchema, otherId: idSchema, reason })
export type UntieSwitches = z.infer<typeof untieSwitchesInput>

export const switchesUntiedPayload = untieSwitchesInput
export type SwitchesUntied = z.infer<typeof switchesUntiedPayload>
