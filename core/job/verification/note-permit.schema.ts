import { z } from 'zod'
import { note } from '../parts.schema'
import { permitStates } from './words'

export const notePermitInput = z.object({
  number: z.string().trim().max(60).default(''),
  state: z.enum(permitStates),
  on: z.iso.date().nullable().default(null).describe('What the day is, its state says: good until, the inspector comes on, released on.'),
  note: note.default(''),
})
export type NotePermit = z.infer<typeof notePermitInput>
export const permitNotedPayload = notePermitInput
export type PermitNoted = NotePermit
