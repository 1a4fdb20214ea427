import { z } from 'zod'
import { behaviourSchema, deviceIdSchema } from '../../automation/model.schema'

export const setBehaviourInput = z.object({
  /** The point that the device, or its channel, switches: what replaces it in the wall behaves the same. */
  deviceId: deviceIdSchema,
  behaviour: behaviourSchema,
})
export type SetBehaviour = z.infer<typeof setBehaviourInput>

export const behaviourSetPayload = setBehaviourInput
export type BehaviourSet = z.infer<typeof behaviourSetPayload>
