import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const openBoxInput = z.object({
  boxId: idSchema,
})
export type OpenBox = z.infer<typeof openBoxInput>

export const boxOpenedPayload = openBoxInput.extend({
  alarms: z.array(z.string()),
})
export type BoxOpened = z.infer<typeof boxOpenedPayload>
