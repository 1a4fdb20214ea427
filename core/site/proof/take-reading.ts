import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { liveObserved } from '../alarm/observe-live'
import { boxAt, clearDoubts, leaveSign, lettersIn, showedVoltage, signOfPower } from '../changes'
import { noSign, nothingEnds, seenTooEarly, signOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { positionAsText, withSign } from '../lifts'
import { farPositions, isNeutralShift, positionText, REFERENCE, requiredPairs, samePair } from '../proofs'
import { deadBelowVolts, judgeReading, liveFromVolts } from '../reading'
import type { Proof } from '../state'
import { rangeText } from '../telling'
import { doubtsCleared, isRefusal, lacksRange, noReference, ownOpenProof } from './problems'
import type { ReadingTaken, TakeReading } from './take-reading.schema'

/** The shifted neutral of the supply: against the reference told by that neutral, to others by what it read there. */
function isShift(proof: Proof, { a, b, volts, neutral }: TakeReading): boolean {
  if (!proof.reference) return false
  if (b === REFERENCE) return isNeutralShift(proof.reference.seen, volts, neutral)
  const known = proof.readings.find((one) => one.verdict === 'neutralShift' && one.b === REFERENCE && (one.a === a || one.a === b))
  return known !== undefined && isNeutralShift(proof.reference.seen, volts, { toReference: known.volts, toConductor: 0 })
}

export const takeReading = siteCommand('takeReading', {
  kind: 'work',
  queues: true,
  decide(site, command: TakeReading, context) {
    const { actor } = context
    const judgement = judgeReading(command.volts, command.impedance)
    const proof = ownOpenProof(site, command.proofId, actor)
    const shift = !isRefusal(proof) && judgement.verdict === 'unexplained' && isShift(proof, command)
    const stopped = (judgement.verdict === 'live' || judgement.verdict === 'unexplained') && !shift
    if (isRefusal(proof)) {
      // Voltage is a fact: it counts even when the proof it was read for has ended in the meantime.
      const known = site.proofs[command.proofId]
      const where = known && known.personId === actor.personId ? site.boxes[known.boxId] : undefined
      if (!stopped || !where) return proof
      return accept(
        liveObserved({
          boxId: where.id,
          what: 'meter',
          volts: command.volts,
          impedance: command.impedance,
          note: `${command.a} to ${command.b}`,
          instrumentId: known!.instrumentId,
          a: command.a,
          b: command.b,
          ...signOf(site, where, actor),
        }),
      )
    }
    if (!proof.reference) return noReference()
    const box = site.boxes[proof.boxId]!
    const asked = requiredPairs(site, box, proof).find((pair) => samePair(pair, command))
    if (!asked)
      return refuse(
        'noSuchPair',
        `${command.a} to ${command.b} is not a pair of this box${command.position.length ? ` with ${positionText(site, command.position)}` : ''}.`,
        `Positions: ${
          farPositions(box)
            .map((position) => positionText(site, position))
            .join(' / ') || 'none'
        }.`,
      )
    const wrongMeter = lacksRange(proof, command.impedance)
    if (wrongMeter) return wrongMeter
    const stale = stopped ? null : seenTooEarly(site, box, context)
    if (stale) return stale
    const payload = {
      ...command,
      a: asked.a,
      b: asked.b,
      boxId: box.id,
      verdict: shift ? 'neutralShift' : judgement.verdict,
      stopped,
      restores: [],
    }
    if (stopped) return accept(readingTaken({ ...payload, ...signOf(site, box, actor) }))
    const floats = [asked.a, asked.b].some((letter) => box.floats.includes(letter))
    if (command.impedance === 'high' && command.volts >= liveFromVolts && !floats)
      return accept(readingTaken({ ...payload, ...signOf(site, box, actor, { suspense: true, own: proof.id }) }))
    const dead = judgement.verdict === 'dead' && command.impedance !== 'high'
    const cleared = dead ? doubtsCleared(site, box.id, [asked], context) : { restores: [], ...nothingEnds }
    return accept(readingTaken({ ...payload, ...noSign, ...cleared }))
  },
  label: (submission) => `${submission.a} → ${submission.b === 'REF' ? 'reference' : submission.b}: ${submission.volts} V`,
})

export const readingTaken = siteEvent('readingTaken', {
  lifts: [(payload) => withSign(positionAsText({ boxId: '', restores: [], neutral: null, ...payload }))],
  evolve(site, payload: ReadingTaken, event) {
    const proof = site.proofs[payload.proofId]!
    const { a, b, position, impedance, volts, verdict } = payload
    proof.readings.push({ a, b, position, impedance, volts, verdict, at: event.at })
    proof.touchedAt = event.receivedAt
    proof.referenceSeenAgain = false
    const target = boxAt(site, proof.boxId)
    if (volts >= deadBelowVolts) showedVoltage(target, a, b)
    const ends = lettersIn(target, [a, b])
    if (verdict === 'neutralShift') target.shifted = [...new Set([...target.shifted, ...ends])]
    if (verdict === 'dead' && impedance !== 'high') {
      // Coupled voltage, dead once it is loaded: it may show it again and alarms nobody.
      const ghosts = ends.filter((letter) => target.readLive.includes(letter))
      target.floats = [...new Set([...target.floats, ...ghosts])]
    }
    if (payload.restores.length > 0) return clearDoubts(site, payload)
    if (!payload.stopped && !payload.suspense) return
    if (payload.stopped) signOfPower(site, proof.boxId, event)
    leaveSign(site, payload, { code: 'voltageRead', a, b, volts, impedance }, event, {
      boxId: proof.boxId,
      what: 'reading',
      pair: { a, b },
      volts,
      impedance,
      instrumentId: proof.instrumentId,
      proofId: proof.id,
    })
  },
  say(payload, { site, proofBox }) {
    const { a, b, position, impedance, volts, stopped, proofId } = payload
    const text = `read ${a} to ${b === 'REF' ? 'reference' : b} at ${proofBox(proofId)}${position.length ? `, ${positionText(site, position)}` : ''}: ${volts} V, ${rangeText(impedance)}`
    return stopped || payload.suspends.length ? alarm(`${text}. Stop.`) : text
  },
})
