import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { photoKinds } from '../words'

export const addPhotoInput = z.object({
  photoId: idSchema,
  boxId: idSchema.nullable(),
  kind: z.enum(photoKinds),
  caption: note.default(''),
})
export type AddPhoto = z.infer<typeof addPhotoInput>

/** `erased`: the picture and what was said of it were, later, at somebody’s wish. */
export const photoAddedPayload = addPhotoInput.extend({ erased: z.boolean().optional() })
export type PhotoAdded = z.infer<typeof photoAddedPayload>
