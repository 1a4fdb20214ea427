import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const dropSensorInput = z.object({ sensorId: idSchema })
export type DropSensor = z.infer<typeof dropSensorInput>

export const sensorDroppedPayload = dropSensorInput.extend({ name: z.string().trim().min(1).max(60) })
export type SensorDropped = z.infer<typeof sensorDroppedPayload>
