import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const witnessProofInput = z.object({
  proofId: idSchema,
})
export type WitnessProof = z.infer<typeof witnessProofInput>

export const proofWitnessedPayload = witnessProofInput.extend({
  boxId: z.string(),
})
export type ProofWitnessed = z.infer<typeof proofWitnessedPayload>
