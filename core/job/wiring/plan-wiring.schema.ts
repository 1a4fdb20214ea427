import { otherLocationStepSchema } from '../../wiring/plan/elsewhere-schema'
import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { wiringPlanSchema } from '../../wiring/plan/plan-schema'
import { verdictCodes } from '../../wiring/plan/verdicts'

export const planWiringInput = z.object({
  boxId: idSchema,
  plan: wiringPlanSchema.nullable(),
})
export type PlanWiring = z.infer<typeof planWiringInput>

export const wiringPlannedPayload = planWiringInput.extend({
  /** What stands against it; null: nothing, or nobody has looked yet. */
  against: z.array(z.enum(verdictCodes)).nullable(),
  /** What it wants done at other locations; null: nothing, or nobody has worked it out yet. */
  elsewhere: z.array(otherLocationStepSchema).nullable(),
  /** What stands against the plans of all boxes of its group as one wiring; null: nothing, or not every one is laid. */
  together: z.array(z.enum(verdictCodes)).nullable(),
})
export type WiringPlanned = z.infer<typeof wiringPlannedPayload>
