import { refuse } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { madeAt } from '../touch'
import type { PointTestedWiresOut, TestWiresOut } from './test-wires-out.schema'
import { againstTestWiresOut } from './testable'
import { checkAnswered } from './test-point'

/** What is seen with the wires out, while the circuit is on for a moment: kept beside the tests, and never counted as one. */
export const testWiresOut = jobCommand('testWiresOut', {
  by: 'crew',
  queues: true,
  decide(job, command: TestWiresOut, context) {
    if (!context.method.testsWiresOut)
      return refuse(
        'testsClosedOnly',
        'This branch tests with the boxes closed.',
        'Close up and test then; who works the other way sets it in Settings.',
      )
    const untestable = againstTestWiresOut(job, context.site, command.pointId)
    if (untestable) return untestable
    const check = checkAnswered(job, context.site, command)
    return 'ok' in check ? check : done(pointTestedWiresOut({ ...command, what: check.what, madeAt: madeAt(context) }))
  },
  label: (submission) => `seen with the wires out: ${submission.result}`,
})

export const pointTestedWiresOut = jobEvent('pointTestedWiresOut', {
  evolve(job, payload: PointTestedWiresOut, event) {
    const { pointId, checkId, result, note } = payload
    ;(job.wiresOut[pointId] ??= {})[checkId] = {
      ...{ result, note, at: event.at, by: event.actor.initials },
      madeAt: payload.madeAt ?? event.receivedAt,
    }
  },
  say(payload, { point }) {
    const text = `${point(payload.pointId)}, wires out: ${payload.what} – ${payload.result}${quoted(payload.note)}`
    return payload.result === 'fail' ? alarm(text) : text
  },
})
