import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { letter } from '../../units/letter'

/** A reading was stored under the wrong letter. */
export const moveReadingInput = z.object({
  boxId: idSchema,
  from: letter,
  to: letter,
})
export type MoveReading = z.infer<typeof moveReadingInput>

export const readingMovedPayload = moveReadingInput
export type ReadingMoved = z.infer<typeof readingMovedPayload>
