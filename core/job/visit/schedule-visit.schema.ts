import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { visitTimes } from '../parts.schema'
import { visitKinds } from '../words'

export const scheduleVisitInput = z.object({
  visitId: idSchema,
  kind: z.enum(visitKinds),
  callbackId: idSchema.nullable().default(null),
  ...visitTimes,
})
export type ScheduleVisit = z.infer<typeof scheduleVisitInput>

export const visitScheduledPayload = scheduleVisitInput
export type VisitScheduled = z.infer<typeof visitScheduledPayload>
