import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { signConsequence, volts } from '../parts.schema'

/** `testerVolts`: the tester on its known source afterwards. */
export const testPartedInput = z.object({
  partId: idSchema,
  instrumentId: idSchema,
  voltsHere: volts,
  voltsAway: volts,
  testerVolts: volts,
})
export type TestParted = z.infer<typeof testPartedInput>

export const partedTestedPayload = testPartedInput.extend({
  boxId: z.string(),
  stopped: z.boolean(),
  ...signConsequence,
})
export type PartedTested = z.infer<typeof partedTestedPayload>
