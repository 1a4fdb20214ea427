import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

/** Where a source is switched off: a breaker of its own that supplies a panel. */
export const recordSourcePointInput = z.object({
  sourceId: idSchema,
  breakerId: idSchema,
  number: z.string().trim().min(1).max(12),
  panelId: idSchema,
  basis: note.min(3),
})
export type RecordSourcePoint = z.infer<typeof recordSourcePointInput>

export const sourcePointRecordedPayload = recordSourcePointInput.extend({
  ...consequence,
})
export type SourcePointRecorded = z.infer<typeof sourcePointRecordedPayload>
