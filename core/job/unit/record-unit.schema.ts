import { z } from 'zod'
import { deviceModelSchema } from '../../fit/device-schema'
import { idSchema } from '../../stream/command-envelope'
import { gang, serial, setupCode, storedCodeSchema } from '../parts.schema'

export const recordUnitInput = z.object({
  unitId: idSchema,
  boxId: idSchema,
  gang,
  serial,
  ...setupCode,
})
export type RecordUnit = z.infer<typeof recordUnitInput>

export const unitRecordedPayload = recordUnitInput.omit({ setupCode: true, setupCodeAgain: true }).extend({
  code: storedCodeSchema,
  model: deviceModelSchema,
})
export type UnitRecorded = z.infer<typeof unitRecordedPayload>
