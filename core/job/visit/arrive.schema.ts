import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const arriveInput = z.object({
  visitId: idSchema,
})
export type Arrive = z.infer<typeof arriveInput>

export const arrivedPayload = arriveInput
export type Arrived = z.infer<typeof arrivedPayload>
