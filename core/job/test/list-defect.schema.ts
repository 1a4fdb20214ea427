import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const listDefectInput = z.object({
  defectId: idSchema,
  pointId: idSchema.nullable(),
  text: note.min(5),
})
export type ListDefect = z.infer<typeof listDefectInput>

export const defectListedPayload = listDefectInput
export type DefectListed = z.infer<typeof defectListedPayload>
