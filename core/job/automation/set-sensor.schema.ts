import { z } from 'zod'
import { sensorSchema } from '../../automation/model.schema'

export const setSensorInput = z.object({ sensor: sensorSchema })
export type SetSensor = z.infer<typeof setSensorInput>

export const sensorSetPayload = setSensorInput
export type SensorSet = z.infer<typeof sensorSetPayload>
