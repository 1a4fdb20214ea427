import type { z } from 'zod'
import { signalReadingSchema } from '../survey.schema'

export const readSignalInput = signalReadingSchema
export type ReadSignal = z.infer<typeof readSignalInput>

export const signalReadPayload = readSignalInput
export type SignalRead = z.infer<typeof signalReadPayload>
