import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, name, note } from '../parts.schema'

/** An instrument failed elsewhere: what was read with it here since its last good check ends. */
export const noteInstrumentFailedInput = z.object({
  instrumentId: idSchema,
  name,
  why: note.default(''),
})
export type NoteInstrumentFailed = z.infer<typeof noteInstrumentFailedInput>

export const instrumentFailedPayload = noteInstrumentFailedInput.extend({
  ...consequence,
})
export type InstrumentFailed = z.infer<typeof instrumentFailedPayload>
