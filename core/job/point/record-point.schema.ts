import { z } from 'zod'
import { pointSchema } from '../parts.schema'

/** A point that is new on the job, or one as it really is: its name, load and where it is switched. */
export const recordPointInput = z.object({ point: pointSchema })
export type RecordPoint = z.infer<typeof recordPointInput>

export const pointRecordedPayload = recordPointInput.extend({ was: pointSchema.nullable() })
export type PointRecorded = z.infer<typeof pointRecordedPayload>
