import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { conductorSchema, consequence } from '../parts.schema'

export const recordConductorsInput = z.object({
  boxId: idSchema,
  conductors: z.array(conductorSchema).min(1).max(30),
})
export type RecordConductors = z.infer<typeof recordConductorsInput>

export const conductorsRecordedPayload = recordConductorsInput.extend({
  ...consequence,
})
export type ConductorsRecorded = z.infer<typeof conductorsRecordedPayload>
