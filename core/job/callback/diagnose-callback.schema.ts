import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { callbackRemedies, causeKinds, payers } from '../words'
import { causeIdSchema } from './call.schema'

export const diagnoseCallbackInput = z.object({
  callbackId: idSchema,
  causeKind: z.enum(causeKinds),
  cause: note.min(5),
  remedy: z.enum(callbackRemedies),
  /** Of the causes that are listed, or met before; null: a program of before, which lists none. */
  causeId: causeIdSchema.nullable().default(null),
  /** What was looked at or measured that shows it. */
  confirmedBy: note.default(''),
  payer: z.enum(payers).nullable().default(null),
})
export type DiagnoseCallback = z.infer<typeof diagnoseCallbackInput>

export const callbackDiagnosedPayload = diagnoseCallbackInput
export type CallbackDiagnosed = z.infer<typeof callbackDiagnosedPayload>
