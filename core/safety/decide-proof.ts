import { accept, payloadOf, refuse, type Actor } from '../stream'
import { supplySchemes } from '../units'
import { isKnownLive } from './feeds'
import { breakerName, energySeqOf, grantReaching, isIsolatedFor, minutesBetween, proofMinutesLeft } from './permissions'
import { farPositions, pairStatuses, requiredPairs, samePair } from './proof'
import { judgeKnownLive, judgeReading, liveFromVolts, type Impedance } from './reading'
import {
  boxesSharingFeed,
  consequenceFor,
  noBox,
  noBreaker,
  noProof,
  refuseAnswer,
  type Handlers,
  type SiteContext,
} from './decide-context'
import type { SiteEvent } from './schema'
import type { BoxState, Proof, SiteState } from './state'

/** A mate may start over when an unfinished proof has rested this long. Common practice, no source. */
const takeOverMinutes = 10

type Refused = ReturnType<typeof refuse>

function ownOpenProof(site: SiteState, proofId: string, actor: Actor): Proof | Refused {
  const proof = site.proofs[proofId]
  if (!proof) return noProof()
  if (proof.personId !== actor.personId) return refuse('notYours', `This proof is ${proof.name}'s.`, 'Start your own, or witness it.')
  if (proof.status !== 'open')
    return refuse(
      'proofClosed',
      proof.status === 'void' ? `This proof has ended: ${proof.voidReason}` : 'This proof is already finished.',
      'Start a new proof.',
    )
  return proof
}
const isRefusal = (value: Proof | Refused): value is Refused => 'ok' in value

/** What was read before the last sign of power, or while power may be coming, says nothing about now. */
function seenTooEarly(site: SiteState, box: BoxState, { basedOnSeq }: Pick<SiteContext, 'basedOnSeq'>): Refused | null {
  const grant = grantReaching(site, box)
  if (grant)
    return refuse(
      'grantOutstanding',
      `${grant.name} may be closing ${breakerName(site.breakers[grant.breakerId]!)} right now: it counts as live.`,
      `Have ${grant.name} answer the request first.`,
    )
  return basedOnSeq < energySeqOf(site, box)
    ? refuse('seenTooEarly', 'Power may have been on here after you read this: it says nothing about now.', 'Prove it dead again.')
    : null
}

function lacksRange(proof: Proof, impedance: Impedance): Refused | null {
  return proof.instrument.kind !== 'both' && proof.instrument.kind !== impedance
    ? refuse(
        'wrongMeter',
        `${proof.instrument.name} has no ${impedance}-impedance range.`,
        'Start the proof again with a tester that has it.',
      )
    : null
}

/** The absence-of-voltage test, from the tester on a live source to the tester on a live source. */
export const proofHandlers: Handlers<
  'startProof' | 'seeReference' | 'takeReading' | 'sweepReadings' | 'finishProof' | 'abandonProof' | 'witnessProof'
> = {
  startProof(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (site.proofs[command.proofId]) return refuse('proofExists', 'This proof already exists.')
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    // That a plate is off is a fact of its own: it stands even when the proof is refused.
    if (box.closure !== 'opened')
      return refuse('plateOn', `The record says that ${box.name} is closed.`, 'Take the plate off and say so, then prove.')
    const stale = seenTooEarly(site, box, context)
    if (stale) return stale
    if (box.conductors.length === 0)
      return refuse(
        'noConductors',
        'No conductors are recorded in this box yet.',
        'Look in and record every conductor you see, without touching.',
      )
    const instrument = context.instrument(command.instrumentId)
    if (!instrument) return refuse('noSuchInstrument', 'This tester is not in the register.', 'Pick a tester from the register.')
    if (instrument.calibrationDue < context.now.slice(0, 10))
      return refuse(
        'calibrationOver',
        `The calibration of ${instrument.name} ended on ${instrument.calibrationDue}.`,
        'Take a tester whose calibration is in date.',
      )
    if (site.failedInstruments[command.instrumentId])
      return refuse(
        'testerFailed',
        `${instrument.name} failed its second check here. Nothing it says counts.`,
        'Take another tester; have this one checked.',
      )
    const scheme = supplySchemes[site.schemeId]
    let warning: string | null = null
    if (command.source.kind === 'breaker') {
      const source = site.breakers[command.source.breakerId]
      if (!source) return noBreaker()
      if (!isKnownLive(site, source))
        return refuse(
          'sourceNotLive',
          `${breakerName(source)} is ${source.state === 'closed' ? 'off further up' : source.state}: nothing behind it is a known live source.`,
          'Use a socket on a closed circuit, or a proving unit.',
        )
      const supply = judgeKnownLive(command.volts, scheme)
      if (!supply.ok)
        return refuse('sourceNotLive', supply.warning!, 'Use another known live source; if the tester is at fault, take it out of use.')
      warning = supply.warning
    } else if (command.volts < liveFromVolts) {
      return refuse(
        'testerSilent',
        `The proving unit gave ${command.volts} V on the tester.`,
        'Change its battery or take another tester. Do not use this one.',
      )
    }
    const replaced = box.proofId ? site.proofs[box.proofId] : undefined
    if (replaced?.status === 'living' && replaced.personId !== context.actor.personId && proofMinutesLeft(replaced, context) > 0)
      return refuse('provenAlready', `${replaced.name} has a living proof here.`, 'Witness it instead.')
    const idleMinutes = replaced ? minutesBetween(replaced.touchedAt, context.now) : 0
    if (replaced?.status === 'open' && replaced.personId !== context.actor.personId && idleMinutes < takeOverMinutes)
      return refuse(
        'beingProven',
        `${replaced.name} is proving this box now.`,
        `Wait, then witness the proof. After ${takeOverMinutes} minutes without a reading you may start your own.`,
      )
    return accept<SiteEvent>({ type: 'proofStarted', payload: { ...payloadOf(command), instrument, warning } })
  },

  seeReference(site, command, { actor }) {
    const proof = ownOpenProof(site, command.proofId, actor)
    if (isRefusal(proof)) return proof
    const supply = judgeKnownLive(command.volts, supplySchemes[site.schemeId])
    if (!supply.ok)
      return refuse(
        'referenceNotGood',
        `${command.volts} V between the reference and a live point: this reference proves nothing.`,
        'Use a wander lead to verified earth, or find the break in the ground.',
      )
    if (command.reference === 'boxGround' && !command.letter)
      return refuse('referenceUnnamed', 'Say which conductor of the box is the ground you use.')
    if (command.letter && !site.boxes[proof.boxId]!.conductors.some((conductor) => conductor.letter === command.letter))
      return refuse('noSuchConductor', `There is no conductor ${command.letter} in this box.`)
    return accept<SiteEvent>({ type: 'referenceSeen', payload: payloadOf(command) })
  },

  takeReading(site, command, { actor, basedOnSeq }) {
    const judgement = judgeReading(command.volts, command.impedance)
    const stopped = judgement.verdict === 'live' || judgement.verdict === 'unexplained'
    const proof = ownOpenProof(site, command.proofId, actor)
    if (isRefusal(proof)) {
      // Voltage is a fact: it counts even when the proof it was read for has ended in the meantime.
      const known = site.proofs[command.proofId]
      const where = known && known.personId === actor.personId ? site.boxes[known.boxId] : undefined
      if (!stopped || !where) return proof
      return accept<SiteEvent>({
        type: 'liveObserved',
        payload: {
          boxId: where.id,
          what: 'meter',
          volts: command.volts,
          note: `${command.a} to ${command.b}`,
          ...consequenceFor(site, boxesSharingFeed(site, where), where.breakerIds, actor),
        },
      })
    }
    if (!proof.reference)
      return refuse(
        'noReference',
        'No reference has been seen good yet. Without one a reading proves nothing.',
        'See the reference good first.',
      )
    const box = site.boxes[proof.boxId]!
    const asked = requiredPairs(site, box, proof).find((pair) => samePair(pair, command))
    if (!asked)
      return refuse(
        'noSuchPair',
        `${command.a} to ${command.b} is not a pair of this box${command.position ? ` with ${command.position}` : ''}.`,
        `Positions: ${farPositions(site, box).join(' / ') || 'none'}.`,
      )
    const wrongMeter = lacksRange(proof, command.impedance)
    if (wrongMeter) return wrongMeter
    const stale = stopped ? null : seenTooEarly(site, box, { basedOnSeq })
    if (stale) return stale
    const consequence = stopped ? consequenceFor(site, boxesSharingFeed(site, box), box.breakerIds, actor) : { voids: [], alarms: [] }
    return accept<SiteEvent>({
      type: 'readingTaken',
      payload: { ...payloadOf(command), a: asked.a, b: asked.b, verdict: judgement.verdict, stopped, ...consequence },
    })
  },

  sweepReadings(site, command, { actor, basedOnSeq }) {
    const proof = ownOpenProof(site, command.proofId, actor)
    if (isRefusal(proof)) return proof
    if (!proof.reference)
      return refuse(
        'noReference',
        'No reference has been seen good yet. Without one a reading proves nothing.',
        'See the reference good first.',
      )
    const box = site.boxes[proof.boxId]!
    const asked = requiredPairs(site, box, proof)
    const unknown = command.pairs.find((pair) => !asked.some((one) => samePair(one, { ...pair, position: command.position })))
    if (unknown) return refuse('noSuchPair', `${unknown.a} to ${unknown.b} is not a pair of this box.`)
    const wrongMeter = lacksRange(proof, command.impedance)
    if (wrongMeter) return wrongMeter
    if (judgeReading(command.highestVolts, command.impedance).verdict !== 'dead')
      return refuse(
        'sweepNotDead',
        `${command.highestVolts} V is not below 1 V: that pair is stored by itself.`,
        'Store the pair that showed it, one by one.',
      )
    const stale = seenTooEarly(site, box, { basedOnSeq })
    if (stale) return stale
    return accept<SiteEvent>({ type: 'readingsSwept', payload: payloadOf(command) })
  },

  finishProof(site, command, context) {
    const proof = ownOpenProof(site, command.proofId, context.actor)
    if (isRefusal(proof)) return proof
    const box = site.boxes[proof.boxId]!
    if (!proof.reference) return refuse('noReference', 'No reference has been seen good yet.', 'See the reference good first.')
    const left = pairStatuses(site, box, proof).filter((pair) => pair.status !== 'dead')
    if (left.length > 0) {
      const next = left[0]!
      return refuse(
        'readingsMissing',
        `${left.length} ${left.length === 1 ? 'pair is' : 'pairs are'} not settled.`,
        `Next: ${next.a} to ${next.b === 'REF' ? 'reference' : next.b}${next.position ? `, ${next.position}` : ''}${next.status === 'repeatLow' ? ', low impedance' : ''}.`,
      )
    }
    const stale = seenTooEarly(site, box, context)
    if (stale) return stale
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    if (context.instrument(proof.instrumentId) === null)
      return refuse('noSuchInstrument', 'This tester was taken out of the register.', 'Start again with another tester.')
    // The second check fails when the tester no longer shows a live source: then nothing it said counts.
    const good = command.volts >= liveFromVolts
    return accept<SiteEvent>({
      type: 'proofFinished',
      payload: {
        ...payloadOf(command),
        boxId: proof.boxId,
        good,
        knewSeq: context.basedOnSeq,
        finishedAt: new Date(Date.parse(context.now) - context.heldMs).toISOString(),
        reason: good ? null : `The tester read ${command.volts} V on its second check: nothing it said counts.`,
      },
    })
  },

  abandonProof(site, command, { actor }) {
    const proof = site.proofs[command.proofId]
    if (!proof) return noProof()
    if (proof.personId !== actor.personId) {
      const tagged = Object.values(site.tags).some((tag) => tag.personId === proof.personId && !tag.company)
      if (actor.role !== 'lead' || tagged)
        return refuse('notYours', `This proof is ${proof.name}'s.`, `${proof.name} ends it, on any device of the crew with their PIN.`)
    }
    if (proof.status === 'void') return refuse('proofClosed', 'This proof has already ended.')
    return accept<SiteEvent>({ type: 'proofAbandoned', payload: { ...payloadOf(command), boxId: proof.boxId } })
  },

  witnessProof(site, command, { actor, now, proofLimitMinutes, basedOnSeq }) {
    const proof = site.proofs[command.proofId]
    if (!proof) return noProof()
    if (proof.status !== 'living') return refuse('notProven', 'There is no finished, living proof to witness.')
    if (proofMinutesLeft(proof, { now, proofLimitMinutes }) <= 0)
      return refuse('proofExpired', 'This proof is too old to rely on.', 'Prove it dead again.')
    if (basedOnSeq < proof.basedOnSeq)
      return refuse('lateWord', 'You said this before the proof was finished.', 'Look at it, then witness.')
    if (proof.personId === actor.personId) return refuse('ownProof', 'Nobody witnesses their own proof.', 'Ask a crew mate.')
    if (proof.witnesses.some((witness) => witness.personId === actor.personId))
      return refuse('alreadyWitnessed', 'You have already witnessed this proof.')
    return accept<SiteEvent>({ type: 'proofWitnessed', payload: { ...payloadOf(command), boxId: proof.boxId } })
  },
}
