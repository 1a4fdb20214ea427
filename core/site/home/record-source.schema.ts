import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, name } from '../parts.schema'
import { sourceKinds } from '../words'

export const recordSourceInput = z.object({
  sourceId: idSchema,
  kind: z.enum(sourceKinds),
  name,
})
export type RecordSource = z.infer<typeof recordSourceInput>

export const sourceRecordedPayload = recordSourceInput.extend({
  ...consequence,
})
export type SourceRecorded = z.infer<typeof sourceRecordedPayload>
