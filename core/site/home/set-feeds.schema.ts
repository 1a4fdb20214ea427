import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

export const setFeedsInput = z.object({
  boxId: idSchema,
  breakerIds: z.array(idSchema).max(12),
  unknownFeed: z.boolean(),
  basis: note.min(3),
})
export type SetFeeds = z.infer<typeof setFeedsInput>

export const feedsSetPayload = setFeedsInput.extend({
  ...consequence,
})
export type FeedsSet = z.infer<typeof feedsSetPayload>
