import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence } from '../parts.schema'

export const removeTagInput = z.object({
  tagId: idSchema,
})
export type RemoveTag = z.infer<typeof removeTagInput>

export const tagRemovedPayload = removeTagInput.extend({
  breakerId: z.string(),
  ...consequence,
})
export type TagRemoved = z.infer<typeof tagRemovedPayload>
