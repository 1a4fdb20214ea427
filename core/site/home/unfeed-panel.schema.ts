import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence } from '../parts.schema'
import { reason } from '../survey.schema'

/** A breaker does not feed the {panel} that the record says it does. */
export const unfeedPanelInput = z.object({ breakerId: idSchema, reason })
export type UnfeedPanel = z.infer<typeof unfeedPanelInput>

export const panelUnfedPayload = unfeedPanelInput.extend({ panelId: idSchema, name: z.string(), ...consequence })
export type PanelUnfed = z.infer<typeof panelUnfedPayload>
