import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

export const abandonProofInput = z.object({
  proofId: idSchema,
  reason: note.min(3),
})
export type AbandonProof = z.infer<typeof abandonProofInput>

export const proofAbandonedPayload = abandonProofInput.extend({
  ...consequence,
  boxId: z.string(),
})
export type ProofAbandoned = z.infer<typeof proofAbandonedPayload>
