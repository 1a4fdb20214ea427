import { z } from 'zod'
import { homeOnDeviceSchema } from '../../link/device-link.schema'
import { idSchema } from '../../stream/command-envelope'

export const noteHomesInput = z.object({ unitId: idSchema, homes: z.array(homeOnDeviceSchema).max(32) })
export type NoteHomes = z.infer<typeof noteHomesInput>
export const homesNotedPayload = noteHomesInput
export type HomesNoted = NoteHomes
