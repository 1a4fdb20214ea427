import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { note, signConsequence, volts } from '../parts.schema'
import { impedances } from '../reading'
import { signKinds } from '../words'

export const observeLiveInput = z.object({
  boxId: idSchema,
  what: z.enum(signKinds),
  volts: volts.nullable().default(null),
  /** Of a meter: with which range. Null: not said, taken as a low-impedance reading. */
  impedance: z.enum(impedances).nullable().default(null),
  note: note.default(''),
})
export type ObserveLive = z.infer<typeof observeLiveInput>

export const liveObservedPayload = observeLiveInput.extend({
  ...signConsequence,
  instrumentId: z.string().nullable(),
  a: z.string(),
  b: z.string(),
})
export type LiveObserved = z.infer<typeof liveObservedPayload>
