import { z } from 'zod'
import { linkDoings, linkFaults } from '../../link/words'
import { idSchema } from '../../stream/command-envelope'

export const noteLinkFaultInput = z.object({
  unitId: idSchema,
  doing: z.enum(linkDoings).exclude(['wall']),
  fault: z.enum(linkFaults),
})
export type NoteLinkFault = z.infer<typeof noteLinkFaultInput>
export const linkFailedPayload = noteLinkFaultInput
export type LinkFailed = NoteLinkFault
