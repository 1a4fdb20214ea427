import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { gang } from '../parts.schema'

/** Nothing goes in here, or nobody knows yet what. */
export const unchooseDeviceInput = z.object({
  boxId: idSchema,
  gang,
})
export type UnchooseDevice = z.infer<typeof unchooseDeviceInput>

export const deviceUnchosenPayload = unchooseDeviceInput
export type DeviceUnchosen = z.infer<typeof deviceUnchosenPayload>
