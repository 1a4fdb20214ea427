import { z } from 'zod'
import { consequence, signCauseSchema } from '../parts.schema'

export const recordCauseInput = z.object({
  signSeq: z.int().min(1),
  cause: signCauseSchema,
})
export type RecordCause = z.infer<typeof recordCauseInput>

export const causeRecordedPayload = recordCauseInput.extend({
  ...consequence,
  boxId: z.string(),
  reached: z.array(z.string()),
  instrumentId: z.string().nullable(),
})
export type CauseRecorded = z.infer<typeof causeRecordedPayload>
