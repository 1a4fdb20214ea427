import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const fitBatteryInput = z.object({
  unitId: idSchema,
  /** What went in, as it is printed on it; empty: as its maker says. */
  battery: z.string().trim().max(60).default(''),
  /** The day it went in. */
  on: z.iso.date(),
})
export type FitBattery = z.infer<typeof fitBatteryInput>
export const batteryFittedPayload = fitBatteryInput
export type BatteryFitted = FitBattery
