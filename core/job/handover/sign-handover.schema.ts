import { z } from 'zod'
import { strokesSchema } from '../../site/parts.schema'
import { idSchema } from '../../stream/command-envelope'
import { name } from '../parts.schema'

export const signHandoverInput = z.object({
  signatureId: idSchema,
  signer: name,
  strokes: strokesSchema,
  acceptedDefectIds: z.array(idSchema).max(50),
})
export type SignHandover = z.infer<typeof signHandoverInput>

export const handoverSignedPayload = signHandoverInput
export type HandoverSigned = z.infer<typeof handoverSignedPayload>
