import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const answerPermitInput = z.object({
  grantId: idSchema,
  answer: z.enum(['closed', 'givenUp']),
})
export type AnswerPermit = z.infer<typeof answerPermitInput>

export const grantAnsweredPayload = answerPermitInput.extend({
  breakerId: z.string(),
})
export type GrantAnswered = z.infer<typeof grantAnsweredPayload>
