import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** The tap was a mistake: the plate is not on, within a minute, by the same person. */
export const undoCloseInput = z.object({
  boxId: idSchema,
})
export type UndoClose = z.infer<typeof undoCloseInput>

export const boxReopenedPayload = undoCloseInput
export type BoxReopened = z.infer<typeof boxReopenedPayload>
