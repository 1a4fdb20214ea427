import { z } from 'zod'
import { curves, residualCurrents, residualKinds } from './words'

const reading = (most: number) => z.number().min(0).max(most).nullable().default(null)
/** What a verification tester read on one circuit of a 230 V supply; null: not measured. */
export const circuitReadingsSchema = z.object({
  /** Of its circuit breaker; null: a fuse, or another device whose tripping current has to be looked up. */
  curve: z.enum(curves).nullable(),
  amps: z.number().min(1).max(125),
  /** Of a fuse or another device: the current that trips it in time, by its maker’s table, amperes. */
  lookedUp: z.number().min(1).max(5000).nullable().default(null),
  /** Protective conductor from its origin to the furthest point, or with the line conductor, ohms. */
  continuity: reading(100_000),
  /** Live conductors to the protective conductor, MΩ; what is beyond the tester is its largest value. */
  insulation: reading(100_000),
  insulationVolts: z.union([z.literal(250), z.literal(500)]),
  /** Devices stayed on the circuit. */
  devicesIn: z.boolean(),
  polarity: z.enum(['right', 'wrong']).nullable().default(null),
  /** Line to earth at the furthest point, ohms. */
  loop: reading(100_000),
  residual: z
    .object({
      milliamps: z.union(residualCurrents.map((one) => z.literal(one)) as never as [z.ZodLiteral<number>, z.ZodLiteral<number>]),
      kind: z.enum(residualKinds),
      /** Milliseconds at its rated current, and at five times; of 30 mA and less 250 mA may be used instead. */
      atOne: reading(10_000),
      atFive: reading(10_000),
      /** Its test button switched it off. */
      button: z.boolean().nullable().default(null),
    })
    .nullable(),
})
export type CircuitReadings = z.infer<typeof circuitReadingsSchema>
