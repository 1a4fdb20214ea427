import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const beginPairingInput = z.object({ unitId: idSchema })
export type BeginPairing = z.infer<typeof beginPairingInput>

export const pairingBegunPayload = beginPairingInput.extend({ madeAt: z.string() })
export type PairingBegun = z.infer<typeof pairingBegunPayload>
