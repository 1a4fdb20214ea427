import type { JobState } from '../state'
import type { PairingRecorded } from '../unit/record-pairing.schema'
import { failTry, openPairing } from './pairing-of'

/** A try ends with what was recorded. What has joined is done with: what was seen and tried before speaks of nothing any more. */
export function endTry(job: JobState, { unitId, result, cause, seconds }: PairingRecorded): void {
  const joining = job.pairing?.units[unitId]
  const before = job.units[unitId]!.pairing?.result === 'joined' || job.pairing?.joined[unitId] !== undefined
  if (result === 'joined') {
    if (before && !job.pairing?.inherited.includes(unitId)) openPairing(job).inherited.push(unitId)
    if (!joining) return
    delete job.pairing!.units[unitId]
    job.pairing!.joined[unitId] = { cause, seconds }
    return
  }
  if (joining) failTry(joining)
}
