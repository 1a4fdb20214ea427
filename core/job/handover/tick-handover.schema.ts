import { z } from 'zod'

export const tickHandoverInput = z.object({
  itemId: z.string().max(60),
  done: z.boolean(),
})
export type TickHandover = z.infer<typeof tickHandoverInput>

export const handoverTickedPayload = tickHandoverInput.extend({
  text: z.string(),
})
export type HandoverTicked = z.infer<typeof handoverTickedPayload>
