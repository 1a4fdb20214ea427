import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { foundNotesSchema } from '../parts.schema'

export const noteFoundInput = z.object({
  boxId: idSchema,
  notes: foundNotesSchema,
})
export type NoteFound = z.infer<typeof noteFoundInput>

export const foundNotedPayload = noteFoundInput
export type FoundNoted = z.infer<typeof foundNotedPayload>
