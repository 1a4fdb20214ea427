import { z } from 'zod'
import { note } from '../parts.schema'
import { drillAnswers, drills } from './words'

export const recordDrillInput = z.object({
  without: z.enum(drills),
  wall: z.enum(['works', 'fails']),
  app: z.enum(drillAnswers),
  voice: z.enum(drillAnswers),
  note: note.default(''),
})
export type RecordDrill = z.infer<typeof recordDrillInput>
export const drillRecordedPayload = recordDrillInput
export type DrillRecorded = z.infer<typeof drillRecordedPayload>
