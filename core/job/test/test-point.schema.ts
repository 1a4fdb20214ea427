import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const testPointInput = z.object({
  pointId: idSchema,
  checkId: z.string().max(160),
  result: z.enum(['pass', 'fail']),
  note: note.default(''),
})
export type TestPoint = z.infer<typeof testPointInput>

export const pointTestedPayload = testPointInput.extend({
  what: z.string(),
  /** Null: it counts as made when it arrived. */
  madeAt: z.string().nullable(),
  /** What the device said when the link tried it; null: somebody looked. */
  measured: z.string().max(200).nullable(),
})
export type PointTested = z.infer<typeof pointTestedPayload>
