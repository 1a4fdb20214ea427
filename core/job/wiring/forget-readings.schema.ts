import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const forgetReadingsInput = z.object({
  boxId: idSchema,
  reason: note.min(5),
})
export type ForgetReadings = z.infer<typeof forgetReadingsInput>

export const readingsForgottenPayload = forgetReadingsInput
export type ReadingsForgotten = z.infer<typeof readingsForgottenPayload>
