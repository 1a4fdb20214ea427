import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const unlinkUnitInput = z.object({ unitId: idSchema, homesLeft: z.int().nullable() })
export type UnlinkUnit = z.infer<typeof unlinkUnitInput>
export const unitUnlinkedPayload = unlinkUnitInput.extend({
  /** How it went without the link; empty: the link did it. */
  how: z.string().max(500),
})
export type UnitUnlinked = z.infer<typeof unitUnlinkedPayload>
export const noteInstallerGoneInput = z.object({
  unitId: idSchema,
  how: note,
  /** It was reset as its maker says: nobody is on it any more, the household neither. */
  reset: z.boolean().default(false),
})
export type NoteInstallerGone = z.infer<typeof noteInstallerGoneInput>
