import { counted } from '../../units/counted'
import { adding } from '../../stream/upcast'
import { accept, refuse } from '../../stream/envelope'
import { alarm, good } from '../../stream/telling'
import { boxAt, voidProofs } from '../changes'
import { nothingEnds, seenTooEarly } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { isBehind, isKnownLive } from '../feeds'
import { withEnds } from '../lifts'
import { isIsolatedFor } from '../permissions'
import { isSettled, isStepDisplay, pairStatuses, positionText, REFERENCE, unexplainedSign } from '../proofs'
import { sameAsBefore } from '../reading'
import { refuseAnswer } from '../refusals'
import type { Proof, SiteState } from '../state'
import type { FinishProof, ProofFinished } from './finish-proof.schema'
import { causeMissing, instrumentProblem, isRefusal, noReference, ownOpenProof } from './problems'

/** A source that was switched off in between shows nothing of the tester. */
const sourceStillLive = (site: SiteState, proof: Proof) => {
  const breaker = proof.sourceBreakerId ? site.breakers[proof.sourceBreakerId] : null
  return !breaker || isKnownLive(site, breaker)
}

export const finishProof = siteCommand('finishProof', {
  kind: 'work',
  queues: true,
  decide(site, command: FinishProof, context) {
    const proof = ownOpenProof(site, command.proofId, context.actor)
    if (isRefusal(proof)) return proof
    const box = site.boxes[proof.boxId]!
    if (!proof.reference) return noReference()
    if (proof.recheckVolts !== null)
      return refuse('recheckFirst', 'The tester was off at its second check.', 'Try it once more on another known source.')
    const left = pairStatuses(site, box, proof).filter((pair) => !isSettled(pair))
    if (left.length > 0) {
      const next = left[0]!
      return refuse(
        'readingsMissing',
        `${counted(left.length, 'reading is', 'readings are')} not settled.`,
        `Next: ${next.a} to ${next.b === REFERENCE ? 'reference' : next.b}${next.position.length ? `, ${positionText(site, next.position)}` : ''}${next.status === 'repeatLow' ? ', low impedance' : ''}.`,
      )
    }
    if (!proof.referenceSeenAgain)
      return refuse('referenceAgain', 'The reference must be verified again after the readings.', 'Verify the same reference again.')
    const stale = seenTooEarly(site, box, context)
    if (stale) return stale
    const sign = unexplainedSign(site, box.id)
    if (sign) return causeMissing(site, sign)
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    const instrument = context.instrument(proof.instrumentId)
    const problem = instrumentProblem(site, proof.instrumentId, instrument, context.today)
    if (problem) return problem
    const testerGood = sameAsBefore(proof.sourceVolts, command.volts, isStepDisplay(proof)) && sourceStillLive(site, proof)
    return accept(
      proofFinished({
        ...command,
        ...nothingEnds,
        boxId: proof.boxId,
        outcome: testerGood ? 'good' : 'recheck',
        reason: testerGood ? null : `The tester showed ${proof.sourceVolts} V before and ${command.volts} V now.`,
        knewSeq: context.basedOnSeq,
        finishedAt: new Date(Date.parse(context.now) - context.heldMs).toISOString(),
        edition: 2,
      }),
    )
  },
  label: (submission) => `tester again, ${submission.volts} V`,
})

export const proofFinished = siteEvent('proofFinished', {
  lifts: [
    ({ good, ...payload }) => withEnds({ ...payload, outcome: good ? 'good' : 'recheck', edition: 1 }),
    adding({ finishedAt: null, knewSeq: null }),
  ],
  evolve(site, payload: ProofFinished, event) {
    const proof = site.proofs[payload.proofId]!
    if (payload.edition === 1) return voidProofs(site, [proof.id], { code: 'stricterRules' })
    proof.touchedAt = event.receivedAt
    if (payload.outcome === 'recheck') {
      proof.recheckVolts = payload.volts
      return
    }
    const proven = boxAt(site, proof.boxId)
    for (const breaker of Object.values(site.breakers))
      if (isKnownLive(site, breaker) && !isBehind(site, proven, breaker.id) && breaker.energisedSeq <= (payload.knewSeq ?? event.seq))
        proven.ruledOut[breaker.id] = { seq: event.seq, at: event.receivedAt }
    proof.status = 'living'
    proof.finishedAt = payload.finishedAt ?? event.receivedAt
    proof.basedOnSeq = event.seq
    site.instrumentGoodSeq[proof.instrumentId] = event.seq
  },
  say: (payload, { site, box }) =>
    payload.outcome === 'good'
      ? good(
          `proved ${box(payload.boxId)} dead; tester good again at ${payload.volts} V on ${site.proofs[payload.proofId]?.sourceName ?? 'its source'}`,
        )
      : alarm(
          `tried the tester again at ${box(payload.boxId)}: ${payload.volts} V, ${site.proofs[payload.proofId]?.sourceVolts ?? 'more'} V before. It is in doubt`,
        ),
})
