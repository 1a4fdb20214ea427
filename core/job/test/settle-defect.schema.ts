import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const settleDefectInput = z.object({
  defectId: idSchema,
  how: note.min(3),
})
export type SettleDefect = z.infer<typeof settleDefectInput>

export const defectSettledPayload = settleDefectInput
export type DefectSettled = z.infer<typeof defectSettledPayload>
