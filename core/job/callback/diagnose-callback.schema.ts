import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { callbackRemedies, causeKinds } from '../words'

export const diagnoseCallbackInput = z.object({
  callbackId: idSchema,
  causeKind: z.enum(causeKinds),
  cause: note.min(5),
  remedy: z.enum(callbackRemedies),
})
export type DiagnoseCallback = z.infer<typeof diagnoseCallbackInput>

export const callbackDiagnosedPayload = diagnoseCallbackInput
export type CallbackDiagnosed = z.infer<typeof callbackDiagnosedPayload>
