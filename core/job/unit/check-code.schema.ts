import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { codePlaces } from './code-places'

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
