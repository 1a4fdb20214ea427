import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note } from '../parts.schema'

export const ruleOutSourceInput = z.object({
  sourceId: idSchema,
  reason: note.min(10),
})
export type RuleOutSource = z.infer<typeof ruleOutSourceInput>

export const sourceRuledOutPayload = ruleOutSourceInput
export type SourceRuledOut = z.infer<typeof sourceRuledOutPayload>
