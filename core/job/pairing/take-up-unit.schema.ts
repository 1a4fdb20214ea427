import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const takeUpUnitInput = z.object({ unitId: idSchema })
export type TakeUpUnit = z.infer<typeof takeUpUnitInput>
export const unitTakenUpPayload = takeUpUnitInput
export type UnitTakenUp = z.infer<typeof unitTakenUpPayload>
