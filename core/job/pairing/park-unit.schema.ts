import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const parkUnitInput = z.object({ unitId: idSchema })
export type ParkUnit = z.infer<typeof parkUnitInput>
export const unitParkedPayload = parkUnitInput.extend({ madeAt: z.string() })
export type UnitParked = z.infer<typeof unitParkedPayload>
