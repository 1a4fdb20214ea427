import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const recordTripCauseInput = z.object({
  breakerId: idSchema,
  cause: note.min(3),
})
export type RecordTripCause = z.infer<typeof recordTripCauseInput>

export const tripCauseRecordedPayload = recordTripCauseInput
export type TripCauseRecorded = z.infer<typeof tripCauseRecordedPayload>
