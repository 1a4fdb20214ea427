import type { LinkedChannel } from '../../link/device-link'
import type { LinkFault } from '../../link/words'

/** A device that carries the installer of this job. */
export interface LinkedUnit {
  channels: LinkedChannel[]
  vendor: string
  product: string
  serial: string
  at: string
  /** What the device was told to be called, and what it keeps. */
  label: { name: string; kept: string } | null
}
export interface LinkState {
  units: Record<string, LinkedUnit>
  /** What the link could not do last, by device. */
  faults: Record<string, { fault: LinkFault; doing: 'join' | 'check' | 'name' | 'leave'; at: string }>
  /** Devices that the installer was taken off, as they were. */
  left: Record<string, LinkedUnit>
}
