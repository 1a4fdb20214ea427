import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { name } from '../parts.schema'
import { memberStates } from './words'

export const noteMemberInput = z.object({ memberId: idSchema, name, is: z.enum(memberStates) })
export type NoteMember = z.infer<typeof noteMemberInput>
export const memberNotedPayload = noteMemberInput
export type MemberNoted = NoteMember
