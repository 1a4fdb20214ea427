import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { end } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { isKnownLive } from '../feeds'
import { breakerName } from '../names'
import { noBreaker } from '../refusals'
import { ended } from '../telling'
import { isRefusal, ownOpenProof, proofsWith, sourceProblem } from './problems'
import type { RecheckTester, TesterRechecked } from './recheck-tester.schema'

export const recheckTester = siteCommand('recheckTester', {
  kind: 'work',
  queues: true,
  decide(site, command: RecheckTester, { actor }) {
    const proof = ownOpenProof(site, command.proofId, actor)
    if (isRefusal(proof)) return proof
    if (proof.recheckVolts === null) return refuse('noRecheck', 'The tester was not off at its second check.')
    const sameSource =
      command.source.kind === 'breaker'
        ? proof.sourceBreakerId === command.source.breakerId
        : proof.sourceBreakerId === null && proof.sourceName === command.source.name
    if (sameSource)
      return refuse('sameSource', `${proof.sourceName} was the source before.`, 'Use another known live source, or another proving unit.')
    if (command.source.kind === 'breaker') {
      const breaker = site.breakers[command.source.breakerId]
      if (!breaker) return noBreaker()
      if (!isKnownLive(site, breaker))
        return refuse('sourceNotLive', `Nothing behind ${breakerName(site, breaker)} is a known live source.`)
    }
    const testerGood = sourceProblem(site, command.source, command.volts).refused === null
    const ends = testerGood ? [proof] : [...new Set([proof, ...proofsWith(site, proof.instrumentId)])]
    return accept(
      testerRechecked({
        ...command,
        boxId: proof.boxId,
        testerGood,
        instrumentId: proof.instrumentId,
        ...endOf(site, ends, actor),
      }),
    )
  },
  label: (submission) => `tester on another source, ${submission.volts} V`,
})

export const testerRechecked = siteEvent('testerRechecked', {
  evolve(site, payload: TesterRechecked, event) {
    const proof = site.proofs[payload.proofId]!
    if (payload.testerGood) return end(site, payload, { code: 'sourceFailed', name: proof.sourceName }, event)
    site.failedInstruments[payload.instrumentId] = { name: proof.instrument.name, at: event.receivedAt }
    end(site, payload, { code: 'instrumentFailed', name: proof.instrument.name }, event)
  },
  say: (payload, { box }) =>
    payload.testerGood
      ? `tried the tester on ${payload.source.name}: ${payload.volts} V, the tester is good. The proof at ${box(payload.boxId)} has ended`
      : alarm(`tried the tester on ${payload.source.name}: ${payload.volts} V. The tester failed.${ended(payload.voids)}`),
})
