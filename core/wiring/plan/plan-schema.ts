import { z } from 'zod'
import { terminalKeys } from '../../fit'

const letter = z.string().regex(/^[A-Z]{1,2}$/)
/** How a box is to be wired: which conductor goes on which terminal, what is spliced, what is capped. */
export const wiringPlanSchema = z.object({
  devices: z
    .array(z.object({ gang: z.int().min(1).max(6), terminals: z.partialRecord(z.enum(terminalKeys), z.array(letter).max(6)) }))
    .max(6),
  splices: z
    .array(
      z.object({
        letters: z.array(letter).min(2).max(8),
        /** How many of these the connector is listed for; null: not looked up. */ holds: z.int().min(1).max(12).nullable().default(null),
      }),
    )
    .max(10),
  capped: z.array(letter).max(30),
})
export type WiringPlan = z.infer<typeof wiringPlanSchema>
