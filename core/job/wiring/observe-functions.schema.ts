import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { observationSchema } from '../parts.schema'

export const observeFunctionsInput = z.object({
  boxId: idSchema,
  rows: z.array(observationSchema).max(128),
})
export type ObserveFunctions = z.infer<typeof observeFunctionsInput>

export const functionsObservedPayload = observeFunctionsInput
export type FunctionsObserved = z.infer<typeof functionsObservedPayload>
