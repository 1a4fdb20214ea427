import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const answerGrantInput = z.object({
  grantId: idSchema,
  answer: z.enum(['closed', 'givenUp']),
})
export type AnswerGrant = z.infer<typeof answerGrantInput>

export const grantAnsweredPayload = answerGrantInput.extend({
  breakerId: z.string(),
})
export type GrantAnswered = z.infer<typeof grantAnsweredPayload>
