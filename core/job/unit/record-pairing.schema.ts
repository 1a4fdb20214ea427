import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note, signalSchema } from '../parts.schema'

export const recordPairingInput = z.object({
  unitId: idSchema,
  result: z.enum(['joined', 'failed']),
  network: z.string().trim().max(64).default(''),
  signal: signalSchema.nullable().default(null),
  note: note.default(''),
})
export type RecordPairing = z.infer<typeof recordPairingInput>

export const pairingRecordedPayload = recordPairingInput
export type PairingRecorded = z.infer<typeof pairingRecordedPayload>
