import { z } from 'zod'
import { pairingSteps } from '../../commission/pairing/words'
import { idSchema } from '../../stream/command-envelope'

export const tryPairingStepInput = z.object({ unitId: idSchema, step: z.enum(pairingSteps) })
export type TryPairingStep = z.infer<typeof tryPairingStepInput>

export const pairingStepTriedPayload = tryPairingStepInput.extend({ madeAt: z.string() })
export type PairingStepTried = z.infer<typeof pairingStepTriedPayload>
