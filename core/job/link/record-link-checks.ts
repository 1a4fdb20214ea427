import { done } from '../context'
import { jobCommand } from '../define'
import { noUnit } from '../refusals'
import { pointTested } from '../test/test-point'
import { madeAt } from '../touch'
import { linkChecksOf } from './link-checks-of'
import type { RecordLinkChecks } from './record-link-checks.schema'

/** What devices said when the link tried them, as functional tests that were measured. */
export const recordLinkChecks = jobCommand('recordLinkChecks', {
  by: 'system',
  decide(job, { unitId, results }: RecordLinkChecks, context) {
    const unit = job.units[unitId]
    if (!unit || unit.removedAt) return noUnit()
    const at = madeAt(context)
    return done(
      ...results.flatMap(({ pointId, checkId, result, measured }) => {
        const point = job.points[pointId]
        const check = point && linkChecksOf(job, unit, point).find(({ id }) => id === checkId)
        return check ? [pointTested({ pointId, checkId, result, note: '', what: check.what, madeAt: at, measured })] : []
      }),
    )
  },
})
