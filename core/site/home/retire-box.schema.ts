import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { reason } from '../survey.schema'

export const retireBoxInput = z.object({ boxId: idSchema, reason })
export type RetireBox = z.infer<typeof retireBoxInput>

export const boxRetiredPayload = retireBoxInput
export type BoxRetired = z.infer<typeof boxRetiredPayload>
