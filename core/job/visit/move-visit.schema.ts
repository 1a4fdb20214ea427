import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { visitTimes } from '../parts.schema'

export const moveVisitInput = z.object({
  visitId: idSchema,
  ...visitTimes,
})
export type MoveVisit = z.infer<typeof moveVisitInput>

/** The customer chose another time, of those that were offered to them. */
export const moveVisitForCustomerInput = moveVisitInput
export type MoveVisitForCustomer = z.infer<typeof moveVisitForCustomerInput>

export const visitMovedPayload = moveVisitInput.extend({ byCustomer: z.boolean().default(false) })
export type VisitMoved = z.infer<typeof visitMovedPayload>
