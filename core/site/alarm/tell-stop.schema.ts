import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'
import { stopKinds } from '../words'

/** What had happened: asked once everybody has stopped. */
export const tellStopInput = z.object({
  stopId: idSchema,
  what: z.enum(stopKinds),
  note: note.default(''),
})
export type TellStop = z.infer<typeof tellStopInput>

export const stopToldPayload = tellStopInput.extend({
  ...consequence,
})
export type StopTold = z.infer<typeof stopToldPayload>
