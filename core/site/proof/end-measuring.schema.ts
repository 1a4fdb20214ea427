import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const endMeasuringInput = z.object({
  measureId: idSchema,
})
export type EndMeasuring = z.infer<typeof endMeasuringInput>

export const measuringEndedPayload = endMeasuringInput
export type MeasuringEnded = z.infer<typeof measuringEndedPayload>
