import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** Where a setup code stands besides where it was read first. */
export const codePlaces = ['device', 'tab', 'card'] as const
export type CodePlace = (typeof codePlaces)[number]

export const checkCodeInput = z.object({
  unitId: idSchema,
  from: z.enum(codePlaces),
  setupCode: z.string().trim().min(1, 'Scan or type the code.').max(60),
})
export type CheckCode = z.infer<typeof checkCodeInput>

export const codeCheckedPayload = checkCodeInput.omit({ setupCode: true }).extend({
  agrees: z.boolean(),
  /** The last two characters of what was read. */
  ending: z.string(),
  /** The device of this job whose code it is instead; null: of none. */
  ofUnitId: z.string().nullable(),
})
export type CodeChecked = z.infer<typeof codeCheckedPayload>
