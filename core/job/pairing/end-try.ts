import type { JobState } from '../state'
import type { PairingRecorded } from '../unit/record-pairing.schema'

/** A try ends with what was recorded. What has joined is done with: what was seen and tried before speaks of nothing any more. */
export function endTry(job: JobState, { unitId, result, cause, seconds }: PairingRecorded): void {
  const joining = job.pairing?.units[unitId]
  if (!joining) return
  if (result === 'joined') {
    delete job.pairing!.units[unitId]
    job.pairing!.joined[unitId] = { cause, seconds }
    return
  }
  if (joining.open) joining.tries++
  joining.open = null
}
