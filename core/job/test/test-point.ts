import type { FunctionalCheck } from '../../commission'
import type { SiteState } from '../../site/state'
import { refuse, type Refusal } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { checksFor } from '../progress'
import type { JobState } from '../state'
import { madeAt } from '../touch'
import type { PointTested, TestPoint } from './test-point.schema'
import { pointIsTestable } from './testable'

/** The check that is answered; or what keeps its result from being stored, whatever state the boxes are in. */
export function checkAnswered(
  job: JobState,
  site: SiteState,
  { pointId, checkId, result, note }: TestPoint,
): FunctionalCheck | { ok: false; refusal: Refusal } {
  const check = checksFor(job, site, job.points[pointId]!).find(({ id }) => id === checkId)
  if (!check) return refuse('noSuchCheck', 'This check is not on the list of the point any more.', 'Look at the list again.')
  return result === 'fail' && note.length < 3 ? refuse('noteMissing', 'A failed check needs a note: what did you see?') : check
}

export const testPoint = jobCommand('testPoint', {
  by: 'crew',
  queues: true,
  decide(job, command: TestPoint, context) {
    const untestable = pointIsTestable(job, context, command.pointId)
    if (untestable) return untestable
    const check = checkAnswered(job, context.site, command)
    return 'ok' in check ? check : done(pointTested({ ...command, what: check.what, madeAt: madeAt(context), measured: null }))
  },
  label: (submission) => `test: ${submission.result}`,
})

export const pointTested = jobEvent('pointTested', {
  rows: true,
  material: true,
  // Tests of before carry no time of their own: they count as made when they arrived.
  lifts: [(payload) => ({ madeAt: null, ...payload }), (payload) => ({ measured: null, ...payload })],
  evolve(job, payload: PointTested, event) {
    const { pointId, checkId, result, note } = payload
    ;(job.tests[pointId] ??= {})[checkId] = {
      result,
      note,
      at: event.at,
      by: event.actor.initials,
      madeAt: payload.madeAt ?? event.receivedAt,
      ...(payload.measured === null ? {} : { measured: payload.measured }),
    }
  },
  say(payload, { point }) {
    const text = `${point(payload.pointId)}: ${payload.what} – ${payload.result}${payload.measured ? ` (measured: ${payload.measured})` : ''}${quoted(payload.note)}`
    return payload.result === 'fail' ? alarm(text) : text
  },
})
