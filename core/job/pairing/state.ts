import type { Observation, PairingCause, PairingStep } from '../../commission/pairing/words'
import type { DrillRecorded } from './record-drill.schema'
import type { AccountsNoted } from './note-accounts.schema'

/** How joining one device went, in order. Times are the server's. */
export interface Joining {
  /** A try that goes on: who made the gesture and saw the device wait, and when. */
  open: { at: string; personId: string; initials: string } | null
  /** Tries of this round that ended without it, and when the round began. A device that is taken up again begins a new one. */
  tries: number
  roundSince: string | null
  history: ({ at: string; initials: string } & ({ seen: Observation; waited?: true } | { tried: PairingStep }))[]
  /** When it was started anew or reset by itself. */
  reopenedAt: string | null
  parked: { at: string; initials: string } | null
}
export interface PairingState {
  units: Record<string, Joining>
  /** Of devices that joined after it was said that they wait: what had kept them from it, and how long the last try took. */
  joined: Record<string, { cause: PairingCause | null; seconds: number | null }>
  /** Devices that were added again, of which nobody has looked what they brought back. */
  inherited: string[]
  /** Addresses the router keeps, by device or hub. */
  addresses: Record<string, { mac: string; address: string }>
  drills: Partial<Record<DrillRecorded['without'], DrillRecorded & { at: string; initials: string }>>
  /** The 5 GHz band was paused, and has not been said to be back. */
  band: { at: string; minutes: number; initials: string } | null
  /** What was settled before the first window opened; null: nobody asked. */
  accounts: (AccountsNoted & { at: string; initials: string }) | null
}
