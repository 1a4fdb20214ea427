import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { causeIdSchema } from './call.schema'

export const solveCallbackInput = z.object({
  callbackId: idSchema,
  causeId: causeIdSchema,
  /** What the customer did. */
  how: note.min(5),
  callBackOn: z.iso.date(),
})
export type SolveCallback = z.infer<typeof solveCallbackInput>

export const callbackSolvedPayload = solveCallbackInput
export type CallbackSolved = z.infer<typeof callbackSolvedPayload>
