import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { visitTimes } from '../parts.schema'

export const moveVisitInput = z.object({
  visitId: idSchema,
  ...visitTimes,
})
export type MoveVisit = z.infer<typeof moveVisitInput>

export const visitMovedPayload = moveVisitInput
export type VisitMoved = z.infer<typeof visitMovedPayload>
