import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const startMeasuringInput = z.object({
  measureId: idSchema,
  boxId: idSchema,
  warnedIds: z.array(idSchema).max(8).default([]),
})
export type StartMeasuring = z.infer<typeof startMeasuringInput>

export const measuringStartedPayload = startMeasuringInput.extend({
  asks: z.array(z.string()),
})
export type MeasuringStarted = z.infer<typeof measuringStartedPayload>
