import type { HomeOnDevice, LinkedChannel } from '../../link/device-link'
import type { LinkDoing, LinkFault } from '../../link/words'

/** A device that carries the installer of this job. */
export interface LinkedUnit {
  channels: LinkedChannel[]
  vendor: string
  product: string
  serial: string
  at: string
  /** What the device was told to be called, and what it keeps. */
  label: { name: string; kept: string } | null
  /** Who was on it when it was asked last; null: not asked, or opened for somebody since. */
  homes?: { list: HomeOnDevice[]; at: string } | null
  /** Of one that was left: how many homes were on it then, by its own list; null: nobody could ask it. */
  homesLeft?: number | null
}
/** What was asked when a fault came: hearing the wall is a test. */
export type LinkFaultDoing = Exclude<LinkDoing, 'wall'>
export interface LinkState {
  units: Record<string, LinkedUnit>
  /** What the link could not do last, by device. */
  faults: Record<string, { fault: LinkFault; doing: LinkFaultDoing; at: string }>
  /** Devices that the installer was taken off, as they were. */
  left: Record<string, LinkedUnit>
}
