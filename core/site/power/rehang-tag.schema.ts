import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { consequence, note } from '../parts.schema'

/** `cause`: for a tag under which the lever was found closed, what had happened. */
export const rehangTagInput = z.object({
  tagId: idSchema,
  cause: note.default(''),
})
export type RehangTag = z.infer<typeof rehangTagInput>

export const tagRehungPayload = rehangTagInput.extend({
  breakerId: z.string(),
  ...consequence,
})
export type TagRehung = z.infer<typeof tagRehungPayload>
