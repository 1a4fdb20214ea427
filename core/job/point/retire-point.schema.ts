import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const retirePointInput = z.object({ pointId: idSchema, reason: note.min(3) })
export type RetirePoint = z.infer<typeof retirePointInput>

export const pointRetiredPayload = retirePointInput
export type PointRetired = z.infer<typeof pointRetiredPayload>
