import { z } from 'zod'
import { pairingCauses } from '../../commission/pairing/words'
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

export const pairingRecordedPayload = recordPairingInput.extend({
  madeAt: z.string().nullable(),
  /** How long it took from the last gesture on, seconds; null: nobody said when it was made. */
  seconds: z.int().min(0).nullable(),
  /** What had kept it from joining, by the step that helped; null: it joined at once, or nobody said what was tried. */
  cause: z.enum(pairingCauses).nullable(),
})
export type PairingRecorded = z.infer<typeof pairingRecordedPayload>
