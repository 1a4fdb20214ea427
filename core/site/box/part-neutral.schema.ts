import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note, partBasis } from '../parts.schema'

export const partNeutralInput = z.object({
  partId: idSchema,
  boxId: idSchema,
  what: note.min(3),
  basis: partBasis,
})
export type PartNeutral = z.infer<typeof partNeutralInput>

export const neutralPartedPayload = partNeutralInput
export type NeutralParted = z.infer<typeof neutralPartedPayload>
