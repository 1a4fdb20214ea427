import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const withdrawAbsentInput = z.object({
  personId: idSchema,
})
export type WithdrawAbsent = z.infer<typeof withdrawAbsentInput>

export const absenceWithdrawnPayload = withdrawAbsentInput
export type AbsenceWithdrawn = z.infer<typeof absenceWithdrawnPayload>
