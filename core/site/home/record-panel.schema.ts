import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, name } from '../parts.schema'

/** {A panel} that nobody listed, or one by another name or place. `fedBy`: the breaker above it; null: nobody knows, or nothing new. */
export const recordPanelInput = z.object({
  panelId: idSchema,
  name,
  place: z.string().trim().max(80),
  fedBy: idSchema.nullable(),
})
export type RecordPanel = z.infer<typeof recordPanelInput>

export const panelRecordedPayload = recordPanelInput.extend({ was: z.string().nullable(), ...consequence })
export type PanelRecorded = z.infer<typeof panelRecordedPayload>
