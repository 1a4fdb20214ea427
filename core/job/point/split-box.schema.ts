import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { name } from '../parts.schema'

/** The gangs behind the first `stay` stand in a box of their own. */
export const splitBoxInput = z.object({ boxId: idSchema, newId: idSchema, name, stay: z.int().min(1).max(5) })
export type SplitBox = z.infer<typeof splitBoxInput>

export const boxPartedPayload = splitBoxInput.omit({ name: true })
export type BoxParted = z.infer<typeof boxPartedPayload>
