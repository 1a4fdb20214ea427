import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'
import { evidenceKinds } from './words'

export const tickHandoverInput = z.object({
  itemId: z.string().max(60),
  done: z.boolean(),
  /** What it rests on. */
  rests: z.enum(evidenceKinds).default('seen'),
  /** The picture it rests on. */
  photoId: idSchema.nullable().default(null),
  note: note.default(''),
})
export type TickHandover = z.infer<typeof tickHandoverInput>

export const handoverTickedPayload = tickHandoverInput.extend({
  text: z.string(),
})
export type HandoverTicked = z.infer<typeof handoverTickedPayload>
