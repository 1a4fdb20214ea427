import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

/** A box of the home that becomes part of this job, or is no longer. */
export const takeInBoxInput = z.object({ boxId: idSchema, part: z.boolean() })
export type TakeInBox = z.infer<typeof takeInBoxInput>

export const boxTakenInPayload = takeInBoxInput
export type BoxTakenIn = z.infer<typeof boxTakenInPayload>
