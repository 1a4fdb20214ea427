import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { name } from '../parts.schema'

export const nameUnitInput = z.object({
  unitId: idSchema,
  name,
  /** The point whose channel is meant, of a device of several; null: the device. */
  pointId: idSchema.nullable().default(null),
  despiteClash: z.boolean().default(false),
})
export type NameUnit = z.infer<typeof nameUnitInput>

export const unitNamedPayload = nameUnitInput
export type UnitNamed = z.infer<typeof unitNamedPayload>

export const unitNameContestedPayload = nameUnitInput
export type UnitNameContested = z.infer<typeof unitNameContestedPayload>
