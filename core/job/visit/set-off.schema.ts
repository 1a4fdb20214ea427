import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { when } from '../parts.schema'

export const setOffInput = z.object({
  visitId: idSchema,
  /** When they expect to be there; null where nobody can tell. */
  expectedAt: when.nullable().default(null),
  /** When it begins, as they know it: what waited on a phone may be of a time that is another one by now. */
  startsAt: when.nullable().default(null),
})
export type SetOff = z.infer<typeof setOffInput>

export const crewSetOffPayload = setOffInput
export type CrewSetOff = z.infer<typeof crewSetOffPayload>
