import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** Everybody here stops. */
export const stopWorkInput = z.object({
  stopId: idSchema,
})
export type StopWork = z.infer<typeof stopWorkInput>

export const workStoppedPayload = stopWorkInput.extend({
  alarms: z.array(z.string()),
})
export type WorkStopped = z.infer<typeof workStoppedPayload>
