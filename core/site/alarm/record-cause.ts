import { accept, refuse } from '../../stream/envelope'
import { boxAt, end, lettersIn } from '../changes'
import { consequenceOfPath, endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { breakerName, causeWordsOf, sentence } from '../names'
import { minutesBetween } from '../permissions'
import { instrumentProblem, proofsWith } from '../proof/problems'
import { boxName } from '../proofs'
import { judgeReading, referenceNeutralBelowVolts, suspenseMinutes } from '../reading'
import { noBreaker } from '../refusals'
import { ended } from '../telling'
import type { CauseRecorded, RecordCause } from './record-cause.schema'

export const recordCause = siteCommand('recordCause', {
  kind: 'work',
  decide(site, command: RecordCause, context) {
    const { actor } = context
    const sign = site.signs[command.signSeq]
    if (!sign) return refuse('noSuchSign', 'The cause of this is not asked for any more.')
    const box = site.boxes[sign.boxId]!
    const { cause } = command
    const measured = cause.kind === 'ghost' || cause.kind === 'mistyped'
    if (!actor.licensed && !measured && cause.kind !== 'unknown')
      return refuse('licenceNeeded', 'A licensed person says what the voltage was.', 'Ask one, or record it as unknown.')
    if (cause.kind === 'leverMoved' || cause.kind === 'secondFeed') {
      const breaker = site.breakers[cause.breakerId]
      if (!breaker) return noBreaker()
      if (breaker.state !== 'open')
        return refuse(
          'notOpen',
          `${sentence(breakerName(site, breaker))} is ${breaker.state === 'unknown' ? 'in an unknown position' : breaker.state}.`,
          'Open it and record it open first.',
        )
      if (cause.kind === 'leverMoved' && breaker.stateSeq <= sign.seq)
        return refuse(
          'notMoved',
          `Nobody has said since then that ${breakerName(site, breaker)} was closed or that they opened it.`,
          'Look at the lever: say how you found it and that you opened it.',
        )
      if (cause.kind === 'secondFeed' && !box.breakerIds.includes(breaker.id))
        return refuse(
          'notAFeed',
          `${sentence(breakerName(site, breaker))} is not on record as a feed of ${boxName(site, box)}.`,
          'Record the feed at the box, then say that it was the cause.',
        )
    }
    if (measured) {
      const problem = instrumentProblem(site, cause.again.instrumentId, context.instrument(cause.again.instrumentId), context.today)
      if (problem) return problem
      if (sign.pair === null || sign.volts === null)
        return refuse('notMeasured', 'This was not a reading of two conductors.', 'Choose another cause.')
      if (judgeReading(cause.again.volts, cause.again.impedance).verdict !== 'dead')
        return refuse('stillLive', `${cause.again.volts} V now: it is not dead.`, 'Treat it as live. Find the feed.')
      if (cause.kind === 'ghost' && sign.impedance !== 'high')
        return refuse('notHigh', 'A ghost is what a high-impedance meter shows; this was read with low impedance.', 'Choose another cause.')
      if (cause.kind === 'mistyped' && (sign.personId !== actor.personId || sign.instrumentId !== cause.again.instrumentId))
        return refuse('notYours', `Only ${sign.name} can say that it was mistyped, with the same instrument.`, 'Choose another cause.')
      if (Object.values(site.grants).length > 0 || context.basedOnSeq < sign.seq || context.heldMs > 60_000)
        return refuse('lateWord', 'This was read before the record was as it is now.', 'Read the pair again, then say it.')
    }
    const permit = Object.values(site.grants)[0]
    // Were any breaker to feed them from now on, a permit that was given before would be for one that feeds an open box.
    if (cause.kind === 'unknown' && permit)
      return refuse(
        'grantOutstanding',
        `${permit.name} may be closing ${breakerName(site, site.breakers[permit.breakerId]!)} right now.`,
        `Have ${permit.name} answer the request first.`,
      )
    if (cause.kind === 'neutralShift' && (sign.volts === null || sign.volts > referenceNeutralBelowVolts))
      return refuse('tooHigh', `A shifted neutral reads at most ${referenceNeutralBelowVolts} V.`, 'Choose another cause.')
    if (cause.kind === 'testerAtFault' && sign.instrumentId === null)
      return refuse('noInstrument', 'No tester is on record for this.', 'Choose another cause.')
    const boxes = sign.reached.flatMap((id) => site.boxes[id] ?? [])
    const innocent = measured && minutesBetween(sign.at, context.now) <= suspenseMinutes
    const suspended = innocent ? [] : sign.suspends.flatMap((id) => site.proofs[id] ?? []).filter((proof) => proof.status !== 'void')
    const ends =
      cause.kind === 'testerAtFault'
        ? endOf(site, [...new Set([...suspended, ...proofsWith(site, sign.instrumentId!)])], actor)
        : cause.kind === 'unknown'
          ? // Any breaker may feed them now: whoever has a permit to close one was told yes before.
            consequenceOfPath(site, boxes, [], actor)
          : endOf(site, suspended, actor)
    return accept(causeRecorded({ ...command, boxId: box.id, reached: sign.reached, instrumentId: sign.instrumentId, ...ends }))
  },
})

export const causeRecorded = siteEvent('causeRecorded', {
  evolve(site, payload: CauseRecorded, event) {
    const known = site.signs[payload.signSeq]
    if (!known) return
    delete site.signs[payload.signSeq]
    const { cause } = payload
    const pair = known.pair ? [known.pair.a, known.pair.b] : []
    const target = boxAt(site, payload.boxId)
    if (cause.kind === 'ghost') target.floats = [...new Set([...target.floats, ...lettersIn(target, pair)])]
    if (cause.kind === 'neutralShift') target.shifted = [...new Set([...target.shifted, ...lettersIn(target, pair)])]
    if (cause.kind === 'unknown') for (const id of payload.reached) boxAt(site, id).unknownFeed = true
    if (cause.kind === 'testerAtFault' && payload.instrumentId) {
      const name = Object.values(site.proofs).find((proof) => proof.instrumentId === payload.instrumentId)?.instrument.name ?? 'the tester'
      site.failedInstruments[payload.instrumentId] = { name, at: event.receivedAt }
    }
    end(site, payload, { code: 'causeRecorded' }, event, { boxIds: payload.reached })
  },
  say: (payload, { site, box }) =>
    `recorded what the voltage at ${box(payload.boxId)} was: ${causeWordsOf(site, payload.cause)}.${ended(payload.voids)}`,
})
