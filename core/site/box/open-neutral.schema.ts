import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note, partBasis } from '../parts.schema'

export const openNeutralInput = z.object({
  partId: idSchema,
  boxId: idSchema,
  what: note.min(3),
  basis: partBasis,
})
export type OpenNeutral = z.infer<typeof openNeutralInput>

export const neutralPartedPayload = openNeutralInput
export type NeutralParted = z.infer<typeof neutralPartedPayload>
