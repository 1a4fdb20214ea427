import type { z } from 'zod'
import type { homeOnDeviceSchema, joinedDeviceSchema, linkedChannelSchema, readingSchema, surroundingsSchema } from './device-link.schema'
import type { LinkFault } from './words'

export type LinkedChannel = z.infer<typeof linkedChannelSchema>
export type JoinedDevice = z.infer<typeof joinedDeviceSchema>
export type ChannelReading = z.infer<typeof readingSchema>
export type Surroundings = z.infer<typeof surroundingsSchema>
export type HomeOnDevice = z.infer<typeof homeOnDeviceSchema>
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
  /** Opens a window for one more home, with a code that dies with it: that of the household. @param seconds 180 to 900 */
  open(unitId: string, seconds: number): Promise<Linked<{ code: string; square: string }>>
  /** Who is on the device, by its own list. */
  homes(unitId: string): Promise<Linked<{ homes: HomeOnDevice[] }>>
  /**
   * Takes the installer off the device. Of a device that does not answer the key is kept.
   * @param anyway also where no other home is on it, so that it forgets everything
   */
  leave(unitId: string, anyway: boolean): Promise<Linked<{ homesLeft: number | null }>>
}
