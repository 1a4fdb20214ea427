import { z } from 'zod'
import { deviceModelSchema } from '../../fit/device-schema'
import { idSchema } from '../../stream/command-envelope'
import { gang, note, serial, setupCode, storedCodeSchema } from '../parts.schema'
import { cartonParts, shopResults } from './words'

const result = z.enum(shopResults).default('none')
export const prepareUnitInput = z.object({
  boxId: idSchema,
  gang,
  serial,
  ...setupCode,
  /** What of the carton was looked at and is there. */
  carton: z.partialRecord(z.enum(cartonParts), z.boolean()).default({}),
  /** What it runs, as its app shows it after the update; empty: not looked at. */
  version: z.string().trim().max(40).default(''),
  /** What was set for this place, in words; empty: nothing yet. */
  settings: z.string().trim().max(300).default(''),
  /** With a test lamp: on, off, and dimmed. */
  lamp: result,
  /** Comes back as it was set once power was away. */
  power: result,
  /** Its meter reads the watts of the test lamp. */
  meter: result,
  note: note.default(''),
})
export type PrepareUnit = z.infer<typeof prepareUnitInput>

export const unitPreparedPayload = prepareUnitInput.omit({ setupCode: true, setupCodeAgain: true }).extend({
  /** Null: nobody recorded it yet. */
  code: storedCodeSchema.nullable(),
  model: deviceModelSchema,
  /** Null: when it arrived. */
  madeAt: z.string().nullable(),
})
export type UnitPrepared = z.infer<typeof unitPreparedPayload>
