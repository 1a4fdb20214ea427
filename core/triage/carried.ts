import type { JobState } from '../job/state'
import { waitsForVisit } from '../job/words'
import { carryWords } from './causes'

/**
 * The models that a visit for a callback takes along: the same again, where the call expects a device to be at fault, or the
 * diagnosis has said so and none is in yet.
 * @returns ids of models, one for each device to carry
 */
export function modelsToCarry(job: Pick<JobState, 'callbacks' | 'units'>, callbackId: string): string[] {
  const callback = job.callbacks[callbackId]
  if (!callback || !waitsForVisit(callback) || callback.replacedBy) return []
  const expected =
    callback.status === 'diagnosed' ? callback.remedy === 'replace' : (callback.call?.carry.includes(carryWords.device) ?? false)
  const unit = job.units[callback.unitId]
  return expected && unit ? [unit.model.id] : []
}
