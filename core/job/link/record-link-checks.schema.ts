import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const recordLinkChecksInput = z.object({
  unitId: idSchema,
  results: z
    .array(z.object({ pointId: idSchema, checkId: z.string().max(160), result: z.enum(['pass', 'fail']), measured: z.string().max(200) }))
    .min(1),
})
export type RecordLinkChecks = z.infer<typeof recordLinkChecksInput>
