import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, volts } from '../parts.schema'

export const finishProofInput = z.object({
  proofId: idSchema,
  volts,
})
export type FinishProof = z.infer<typeof finishProofInput>

export const proofFinishedPayload = finishProofInput.extend({
  ...consequence,
  /** good · recheck: the tester is off, once more on another source · bad */
  outcome: z.enum(['good', 'recheck']),
  reason: z.string().nullable(),
  boxId: z.string(),
  /** When it was really made, if it waited on a phone without network. */
  finishedAt: z.string().nullable(),
  /** The newest seq its maker knew of: a breaker closed after that was not on while this was read. */
  knewSeq: z.number().nullable(),
  edition: z.literal([1, 2]),
})
export type ProofFinished = z.infer<typeof proofFinishedPayload>
