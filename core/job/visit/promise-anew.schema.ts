import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { when } from '../parts.schema'
import { tellingWays } from '../words'

export const promiseAnewInput = z.object({
  visitId: idSchema,
  windowFrom: when,
  windowTo: when,
  /** How the customer hears of it. */
  told: z.enum(tellingWays),
})
export type PromiseAnew = z.infer<typeof promiseAnewInput>

export const promisedAnewPayload = promiseAnewInput
export type PromisedAnew = z.infer<typeof promisedAnewPayload>
