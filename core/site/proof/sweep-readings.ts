import { accept, refuse } from '../../stream/envelope'
import { clearDoubts } from '../changes'
import { nothingEnds, seenTooEarly } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { positionAsText, withEnds } from '../lifts'
import { positionText, requiredPairs, samePair } from '../proofs'
import { deadBelowVolts, judgeReading } from '../reading'
import { rangeText } from '../telling'
import { doubtsCleared, isRefusal, lacksRange, noReference, ownOpenProof } from './problems'
import type { ReadingsSwept, SweepReadings } from './sweep-readings.schema'

export const sweepReadings = siteCommand('sweepReadings', {
  kind: 'work',
  queues: true,
  decide(site, command: SweepReadings, context) {
    const proof = ownOpenProof(site, command.proofId, context.actor)
    if (isRefusal(proof)) return proof
    if (!proof.reference) return noReference()
    const box = site.boxes[proof.boxId]!
    const asked = requiredPairs(site, box, proof)
    const unknown = command.pairs.find((pair) => !asked.some((one) => samePair(one, { ...pair, position: command.position })))
    if (unknown) return refuse('noSuchPair', `${unknown.a} to ${unknown.b} is not a pair of this box.`)
    const wrongMeter = lacksRange(proof, command.impedance)
    if (wrongMeter) return wrongMeter
    if (judgeReading(command.highestVolts, command.impedance).verdict !== 'dead')
      return refuse(
        'sweepNotDead',
        `${command.highestVolts} V is not below ${deadBelowVolts} V: that pair is stored by itself.`,
        'Store the pair that showed it, one by one.',
      )
    const stale = seenTooEarly(site, box, context)
    if (stale) return stale
    const cleared = command.impedance === 'high' ? { restores: [], ...nothingEnds } : doubtsCleared(site, box.id, command.pairs, context)
    return accept(readingsSwept({ ...command, ...cleared }))
  },
  label: (submission) => `${submission.pairs.length} pairs, highest ${submission.highestVolts} V`,
})

export const readingsSwept = siteEvent('readingsSwept', {
  lifts: [(payload) => withEnds(positionAsText({ restores: [], ...payload }))],
  evolve(site, payload: ReadingsSwept, event) {
    const proof = site.proofs[payload.proofId]!
    const { position, impedance, highestVolts: volts } = payload
    for (const { a, b } of payload.pairs)
      proof.readings.push({ a, b, position, impedance, volts, verdict: 'dead', at: event.at, sweep: true })
    proof.referenceSeenAgain = false
    proof.touchedAt = event.receivedAt
    clearDoubts(site, payload)
  },
  say: (payload, { site, proofBox }) =>
    `read ${payload.pairs.length} pairs at ${proofBox(payload.proofId)}${payload.position.length ? `, ${positionText(site, payload.position)}` : ''}: none above ${payload.highestVolts} V, ${rangeText(payload.impedance)}`,
})
