import { z } from 'zod'
import { circuitReadingsSchema } from '../../verification/circuit.schema'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const verifyCircuitInput = z.object({
  breakerId: idSchema,
  readings: circuitReadingsSchema,
  /** Tester and its serial, as on its label. */
  instrument: z.string().trim().min(2).max(80),
  note: note.default(''),
})
export type VerifyCircuit = z.infer<typeof verifyCircuitInput>

export const circuitVerifiedPayload = verifyCircuitInput.extend({
  /** By the rule of the branch, on that day. */
  passed: z.boolean(),
  volts: z.number(),
  share: z.number(),
  name: z.string(),
  /** By the server’s time: what was opened since is to be measured again. */
  madeAt: z.string(),
})
export type CircuitVerified = z.infer<typeof circuitVerifiedPayload>
