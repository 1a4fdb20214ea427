import type { LinkedKind, LinkFault } from './words'

/** One load of a device: what can be asked of it. */
export interface LinkedChannel {
  endpoint: number
  level: boolean
  speed: boolean
  meter: boolean
}
export interface JoinedDevice {
  /** What the device says of itself. */
  vendor: string
  product: string
  serial: string
  channels: LinkedChannel[]
  /** How well it hears the network, dBm; null: it does not say. */
  dbm: number | null
  /** The network it is on; empty: it does not say. */
  network: string
  /** From the asking to the end of joining, ms. */
  ms: number
}
export interface ChannelReading {
  on: boolean
  /** Percent; null: it has none. */
  level: number | null
  watts: number | null
}
export type Linked<T> = ({ ok: true } & T) | { ok: false; fault: LinkFault; note: string }

/** What a stand-in cannot know of the home that it plays in; a real network is asked of none of it. */
export interface Surroundings {
  powered: boolean
  /** Its window is open, by the record. */
  windowOpen: boolean
  /** 5 GHz is paused, or the phone and the network are at 2.4 GHz. */
  narrowBand: boolean
  /** Everything it learnt was taken from it, by the record. */
  reset: boolean
  kind: LinkedKind
  serial: string
  /** What hangs on it when it is on, by channel, watts. */
  watts: number[]
}

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
