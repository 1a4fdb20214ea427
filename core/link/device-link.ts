import type { z } from 'zod'
import type { joinedDeviceSchema, linkedChannelSchema, readingSchema, surroundingsSchema } from './device-link.schema'
import type { LinkFault } from './words'

export type LinkedChannel = z.infer<typeof linkedChannelSchema>
export type JoinedDevice = z.infer<typeof joinedDeviceSchema>
export type ChannelReading = z.infer<typeof readingSchema>
export type Surroundings = z.infer<typeof surroundingsSchema>
export type Linked<T> = ({ ok: true } & T) | { ok: false; fault: LinkFault; note: string }

/**
 * How the program reaches the devices of a home. By protocol the link process does it (`link/`); by hand people do it, with the
 * household’s app, and report what they see by the commands of the job: pairing, tests, names.
 */
export interface DeviceLink {
  join(unitId: string, code: string): Promise<Linked<{ device: JoinedDevice }>>
  /** Sets what is given and reads back what the device says; one that does not follow within seconds says what it is instead. */
  drive(unitId: string, endpoint: number, to: { on?: boolean; level?: number }): Promise<Linked<{ reading: ChannelReading; ms: number }>>
  read(unitId: string, endpoint: number): Promise<Linked<{ reading: ChannelReading; ms: number }>>
  /** Writes the name into the device, and reads what it keeps. */
  name(unitId: string, name: string): Promise<Linked<{ kept: string }>>
  /** Takes the installer off the device. Of a device that does not answer the key is kept. */
  leave(unitId: string): Promise<Linked<{ homesLeft: number | null }>>
}
