import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** Which boxes are traced: the same on every phone. None: those whose feed nobody knows. */
export const scopeHuntInput = z.object({
  boxIds: z.array(idSchema).max(200),
})
export type ScopeHunt = z.infer<typeof scopeHuntInput>

export const huntScopedPayload = scopeHuntInput
export type HuntScoped = z.infer<typeof huntScopedPayload>
