import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { boxAt, leaveSign, signOfPower } from '../changes'
import { noSign, seenTooEarly, signOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { withSign } from '../lifts'
import { hasLicensedEyes } from '../permissions'
import { deadBelowVolts, sameAsBefore } from '../reading'
import type { PartedTested, TestParted } from './test-parted.schema'

export const testParted = siteCommand('testParted', {
  kind: 'work',
  queues: true,
  decide(site, command: TestParted, context) {
    const { actor } = context
    const box = Object.values(site.boxes).find((candidate) => candidate.parted.some((part) => part.id === command.partId))
    const part = box?.parted.find((candidate) => candidate.id === command.partId)
    if (!box || !part) return refuse('noSuchPart', 'This neutral is not recorded as open.')
    const stopped = Math.max(command.voltsHere, command.voltsAway) >= deadBelowVolts
    if (!stopped) {
      // Voltage is a fact from anybody; that there is none is a test like any other.
      if (part.tested) return refuse('alreadyTested', 'Both ends are tested already.')
      const stale = seenTooEarly(site, box, context)
      if (stale) return stale
      const proof = box.proofId ? site.proofs[box.proofId] : undefined
      const mine = proof && proof.status === 'living' && proof.personId === actor.personId
      if (!mine || !hasLicensedEyes(proof, actor))
        return refuse(
          'notProven',
          'The two ends are tested as in a proof, by the person whose proof of this box is valid.',
          'Whoever made the proof tests them, with a licensed person there.',
        )
      if (proof.instrumentId !== command.instrumentId || site.failedInstruments[command.instrumentId])
        return refuse(
          'otherTester',
          `The proof was made with ${proof.instrument.name}.`,
          'Test with the same instrument, or prove the box again.',
        )
      if (!sameAsBefore(proof.sourceVolts, command.testerVolts, proof.instrument.kind === 'twoPole'))
        return refuse(
          'testerSilent',
          `${proof.instrument.name} showed ${proof.sourceVolts} V on ${proof.sourceName} before and ${command.testerVolts} V now.`,
          'Take another tester and prove the box again.',
        )
    }
    return accept(partedTested({ ...command, boxId: box.id, stopped, ...(stopped ? signOf(site, box, actor) : noSign) }))
  },
})

export const partedTested = siteEvent('partedTested', {
  lifts: [(payload) => withSign({ instrumentId: '', testerVolts: 0, ...payload })],
  evolve(site, payload: PartedTested, event) {
    const { boxId, stopped, instrumentId } = payload
    if (!stopped) {
      boxAt(site, boxId).parted.find((part) => part.id === payload.partId)!.tested = true
      return
    }
    signOfPower(site, boxId, event)
    leaveSign(site, payload, { code: 'partedLive' }, event, {
      boxId,
      what: 'parted',
      pair: null,
      volts: Math.max(payload.voltsHere, payload.voltsAway),
      impedance: 'low',
      instrumentId,
      proofId: null,
    })
  },
  say(payload, { box }) {
    const text = `tested both ends of the open neutral at ${box(payload.boxId)}: ${payload.voltsHere} V and ${payload.voltsAway} V`
    return payload.stopped ? alarm(`${text}. Stop.`) : text
  },
})
