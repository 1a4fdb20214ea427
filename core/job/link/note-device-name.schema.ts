import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const noteDeviceNameInput = z.object({ unitId: idSchema, name: z.string().max(100), kept: z.string().max(64) })
export type NoteDeviceName = z.infer<typeof noteDeviceNameInput>
export const deviceNamedPayload = noteDeviceNameInput
export type DeviceNamed = NoteDeviceName
