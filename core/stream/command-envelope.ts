import { z } from 'zod'
import { pinShape, pinWord } from './pin'
import { streamKinds } from './words'

export const idSchema = z.uuid().describe('uuid v7 made by the client: identity, never order')

/** What a client sends: one intention, identified, with the state it was made in. */
export const commandEnvelopeSchema = z.object({
  id: idSchema,
  stream: z.enum(streamKinds),
  streamId: idSchema,
  /** What the client's clock said when the person did it. */
  at: z.iso.datetime({ offset: true }),
  /** The newest energy seq of the site this client had seen when the person did it. */
  basedOnSeq: z.int().min(0).default(0),
  /** The newest seq of the job's record this client had seen; null when it holds none. */
  jobSeq: z.int().min(0).nullable().default(null),
  /** How long it waited on the device before it was sent, ms. */
  heldMs: z.int().min(0).max(2_592_000_000).default(0),
  /** A crew mate who does this on the sender's device with their own PIN. */
  onBehalf: z.object({ personId: idSchema, pin: z.string().regex(pinShape, pinWord) }).optional(),
  command: z.looseObject({ type: z.string().min(1).max(60) }),
})
export type CommandEnvelope = z.infer<typeof commandEnvelopeSchema>
