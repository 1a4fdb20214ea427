import type { z } from 'zod'
import { networkSchema } from '../survey.schema'

export const recordNetworkInput = networkSchema
export type RecordNetwork = z.infer<typeof recordNetworkInput>

export const networkRecordedPayload = recordNetworkInput
export type NetworkRecorded = z.infer<typeof networkRecordedPayload>
