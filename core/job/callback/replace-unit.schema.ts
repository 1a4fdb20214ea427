import { z } from 'zod'
import { deviceModelSchema } from '../../fit/device-schema'
import { idSchema } from '../../stream/command-envelope'
import { serial, setupCode, storedCodeSchema } from '../parts.schema'
import { clearings } from '../unit/return-words'
import { oldUnitFates } from '../words'

export const replaceUnitInput = z.object({
  callbackId: idSchema,
  oldUnitId: idSchema,
  newUnitId: idSchema,
  serial,
  oldUnitGoes: z.enum(oldUnitFates),
  /** What of the home was taken out of the old one: one with a battery obeys nobody’s breaker, and goes on telling its partner what to do. */
  oldUnitCleared: z.enum(clearings).nullable().optional(),
  ...setupCode,
})
export type ReplaceUnit = z.infer<typeof replaceUnitInput>

export const unitReplacedPayload = replaceUnitInput.omit({ setupCode: true, setupCodeAgain: true }).extend({
  code: storedCodeSchema,
  model: deviceModelSchema,
  oldSerial: z.string(),
})
export type UnitReplaced = z.infer<typeof unitReplacedPayload>
