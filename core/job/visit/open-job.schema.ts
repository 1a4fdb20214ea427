import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { name, note, pointSchema } from '../parts.schema'

export const openJobInput = z.object({
  siteId: idSchema,
  title: name,
  note: note.default(''),
  boxIds: z.array(idSchema).max(200),
  points: z.array(pointSchema).max(300),
})
export type OpenJob = z.infer<typeof openJobInput>

export const jobOpenedPayload = openJobInput
export type JobOpened = z.infer<typeof jobOpenedPayload>
