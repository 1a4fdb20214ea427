import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** Which boxes are traced: the same on every phone. None: those whose feed nobody knows. */
export const scopeTracingInput = z.object({
  boxIds: z.array(idSchema).max(200),
})
export type ScopeTracing = z.infer<typeof scopeTracingInput>

export const huntScopedPayload = scopeTracingInput
export type HuntScoped = z.infer<typeof huntScopedPayload>
