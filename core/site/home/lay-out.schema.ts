import { z } from 'zod'
import { schemeIds } from '../../units/scheme'
import { boxSchema, breakerSchema, consequence, panelSchema, roomSchema, sourceSchema } from '../parts.schema'

export const layOutInput = z.object({
  schemeId: z.enum(schemeIds),
  sources: z.array(sourceSchema).max(6),
  panels: z.array(panelSchema).max(12),
  breakers: z.array(breakerSchema).max(200),
  rooms: z.array(roomSchema).max(80),
  boxes: z.array(boxSchema).max(200),
})
export type LayOut = z.infer<typeof layOutInput>

export const siteLaidOutPayload = layOutInput.extend({
  ...consequence,
})
export type SiteLaidOut = z.infer<typeof siteLaidOutPayload>
