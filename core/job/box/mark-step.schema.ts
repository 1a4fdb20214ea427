import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { gang } from '../parts.schema'

export const markStepInput = z.object({
  boxId: idSchema,
  gang,
  stepId: z.string().max(40),
  done: z.boolean(),
})
export type MarkStep = z.infer<typeof markStepInput>

export const stepMarkedPayload = markStepInput.extend({
  text: z.string(),
  modelId: z.string().nullable(),
  inDoubt: z.boolean(),
})
export type StepMarked = z.infer<typeof stepMarkedPayload>
