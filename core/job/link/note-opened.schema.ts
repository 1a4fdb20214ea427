import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const noteOpenedInput = z.object({ unitId: idSchema, until: z.iso.datetime() })
export type NoteOpened = z.infer<typeof noteOpenedInput>
export const openedForHouseholdPayload = noteOpenedInput
export type OpenedForHousehold = NoteOpened
