import type { JobState, Unit } from '../state'
import { noUnit } from '../refusals'
import { refuse, type Refusal } from '../../stream/envelope'
import type { Joining, PairingState } from './state'

const empty = (): PairingState => ({
  ...{ units: {}, joined: {}, inherited: [], addresses: {}, drills: {}, band: null, accounts: null },
})
const none = empty()
export const pairingOf = (job: JobState): Readonly<PairingState> => job.pairing ?? none
/** For what changes it: there from now on. */
export const openPairing = (job: JobState): PairingState => (job.pairing ??= empty())

const untouched: Joining = { open: null, tries: 0, roundSince: null, history: [], reopenedAt: null, parked: null }
export const joiningOf = (job: JobState, unitId: string): Readonly<Joining> => job.pairing?.units[unitId] ?? untouched
export const openJoining = (job: JobState, unitId: string): Joining => (openPairing(job).units[unitId] ??= { ...untouched, history: [] })

/** A try that goes on ends without it. */
export function failTry(joining: Joining): void {
  if (joining.open) joining.tries++
  joining.open = null
}

/** A device that can be joined, or why it cannot. */
export function pairable(job: JobState, unitId: string): { unit: Unit } | { ok: false; refusal: Refusal } {
  const unit = job.units[unitId]
  if (!unit || unit.removedAt) return noUnit()
  return unit.model.setupCode === 'none' ? refuse('nothingToPair', `${unit.model.name} does not pair with a network.`) : { unit }
}
/** So long a try of somebody else is left alone, ms: the two minutes of patience, and one to say what came of it. */
const triesForMs = 3 * 60_000
/** Somebody else makes a try of it right now. */
export function triedBy(job: JobState, unitId: string, personId: string, now: number): string | null {
  const { open } = joiningOf(job, unitId)
  return open && open.personId !== personId && now - Date.parse(open.at) < triesForMs ? open.initials : null
}
