import { simulate } from '../site/testing'
import { Record as SimulatedRecord } from '../site/testing/record'
import type { SiteState } from '../site'
import type { StreamEvent } from '../stream'

/** The records of days of the simulated crew in which much happens: what was written, and what it folded to. */
export function simulatedDays(): { log: StreamEvent[]; state: SiteState }[] {
  const records = new Set<SimulatedRecord>()
  const give = SimulatedRecord.prototype.give
  SimulatedRecord.prototype.give = function (...given) {
    records.add(this)
    return give.apply(this, given)
  }
  try {
    for (const plot of [null, 'alarm', 'moment', 'guard', 'halted', 'lunch', 'measure', 'child', 'trip'])
      simulate({ seed: 21, steps: 5_000, focus: plot ? { plot } : {} })
  } finally {
    SimulatedRecord.prototype.give = give
  }
  return [...records]
}
