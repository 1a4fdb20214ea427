import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, proofSource, volts } from '../parts.schema'

/** The second check was off: once more on another known source. */
export const recheckTesterInput = z.object({
  proofId: idSchema,
  source: proofSource,
  volts,
})
export type RecheckTester = z.infer<typeof recheckTesterInput>

export const testerRecheckedPayload = recheckTesterInput.extend({
  ...consequence,
  boxId: z.string(),
  testerGood: z.boolean(),
  instrumentId: z.string(),
})
export type TesterRechecked = z.infer<typeof testerRecheckedPayload>
