import { z } from 'zod'
import { skillsSchema } from '../../units/day-settings'

/** More than a crew of six is two visits. */
export const mostPeople = 6

export const setNeedsInput = z.object({
  /** How many people its visits take. */
  people: z.int().min(1).max(mostPeople),
  /** What at least one of them has learnt, in the branch’s words. */
  skills: skillsSchema,
})
export type SetNeeds = z.infer<typeof setNeedsInput>

export const needsSetPayload = setNeedsInput
export type NeedsSet = z.infer<typeof needsSetPayload>
