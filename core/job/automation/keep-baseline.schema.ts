import { z } from 'zod'
import { deviceIdSchema } from '../../automation/model.schema'

const watts = z.number().min(0).max(100_000)
export const keepBaselineInput = z.object({
  deviceId: deviceIdSchema,
  /** As measured while all was well. */
  baseline: z.object({
    watts: watts.positive(),
    spread: watts,
    memory: z.number().min(0).max(0.95),
    every: z.number().positive().max(86_400),
    start: watts.nullable(),
    startReadings: z.int().min(0).max(100_000),
    readings: z.int().positive(),
  }),
  monitor: z.object({
    low: watts,
    high: watts,
    readings: z.int().min(1).max(100_000),
    every: z.number().positive().max(86_400),
    repeat: z.number().min(1).max(86_400),
  }),
  /** What it does, seen beside the watts: a motor may take its power and move nothing. */
  effect: z.object({ what: z.string().trim().max(80), value: z.string().trim().max(80) }),
})
export type KeepBaseline = z.infer<typeof keepBaselineInput>

export const baselineKeptPayload = keepBaselineInput
export type BaselineKept = z.infer<typeof baselineKeptPayload>
