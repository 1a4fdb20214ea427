import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, instrumentSnapshotSchema, proofSource, volts } from '../parts.schema'

export const startProofInput = z.object({
  proofId: idSchema,
  boxId: idSchema,
  instrumentId: idSchema,
  source: proofSource,
  volts,
})
export type StartProof = z.infer<typeof startProofInput>

export const proofStartedPayload = startProofInput.extend({
  ...consequence,
  instrument: instrumentSnapshotSchema,
  warning: z.string().nullable(),
  everyPair: z.boolean(),
  edition: z.literal([1, 2]),
})
export type ProofStarted = z.infer<typeof proofStartedPayload>
