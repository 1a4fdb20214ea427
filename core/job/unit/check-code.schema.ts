import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** Where a setup code stands besides where it was read first. */
export const codePlaces = ['device', 'tab', 'card'] as const
export type CodePlace = (typeof codePlaces)[number]

export const checkCodeInput = z.object({
  unitId: idSchema,
  from: z.enum(codePlaces),
  /** Empty: what said another code there was taken away, and nothing is read there any more. */
  setupCode: z.string().trim().max(60),
})
export type CheckCode = z.infer<typeof checkCodeInput>

export const codeCheckedPayload = checkCodeInput.omit({ setupCode: true }).extend({
  /** Null: it was taken away. */
  agrees: z.boolean().nullable(),
  /** The last two characters of what was read. */
  ending: z.string(),
  /** The device of this job whose code it is instead; null: of none. */
  ofUnitId: z.string().nullable(),
})
export type CodeChecked = z.infer<typeof codeCheckedPayload>
