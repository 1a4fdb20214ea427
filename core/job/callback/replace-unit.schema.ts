import { z } from 'zod'
import { deviceModelSchema } from '../../fit/device-schema'
import { idSchema } from '../../stream/command-envelope'
import { serial, setupCode, storedCodeSchema } from '../parts.schema'
import { oldUnitFates } from '../words'

export const replaceUnitInput = z.object({
  callbackId: idSchema,
  oldUnitId: idSchema,
  newUnitId: idSchema,
  serial,
  oldUnitGoes: z.enum(oldUnitFates),
  ...setupCode,
})
export type ReplaceUnit = z.infer<typeof replaceUnitInput>

export const unitReplacedPayload = replaceUnitInput.omit({ setupCode: true, setupCodeAgain: true }).extend({
  code: storedCodeSchema,
  model: deviceModelSchema,
  oldSerial: z.string(),
})
export type UnitReplaced = z.infer<typeof unitReplacedPayload>
