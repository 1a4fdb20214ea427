import { z } from 'zod'
import { deviceModelSchema } from '../../fit/device-schema'
import { idSchema } from '../../stream/command-envelope'
import { verdictCodes } from '../../wiring/plan/verdicts'
import { gang } from '../parts.schema'

export const chooseDeviceInput = z.object({
  boxId: idSchema,
  gang,
  modelId: idSchema,
  pointIds: z.array(idSchema).max(4),
})
export type ChooseDevice = z.infer<typeof chooseDeviceInput>

export const deviceChosenPayload = chooseDeviceInput.extend({
  model: deviceModelSchema,
  /** What stands against the wiring that was laid, with this device; null: nothing was laid, or nobody has looked yet. */
  against: z.array(z.enum(verdictCodes)).nullable(),
  /** The same of the plans of its group as one wiring. */
  together: z.array(z.enum(verdictCodes)).nullable(),
})
export type DeviceChosen = z.infer<typeof deviceChosenPayload>
