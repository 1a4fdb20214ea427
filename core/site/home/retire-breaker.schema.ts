import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { reason } from '../survey.schema'

export const retireBreakerInput = z.object({ breakerId: idSchema, reason })
export type RetireBreaker = z.infer<typeof retireBreakerInput>

export const breakerRetiredPayload = retireBreakerInput
export type BreakerRetired = z.infer<typeof breakerRetiredPayload>
