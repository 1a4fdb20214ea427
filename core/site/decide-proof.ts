import { accept, payloadOf, refuse, type Actor } from '../stream'
import { supplySchemes } from '../units'
import { isKnownLive } from './feeds'
import { breakerName, isIsolatedFor, minutesBetween, proofMinutesLeft, sentence } from './permissions'
import {
  boxName,
  farPositions,
  isNeutralShift,
  isSettled,
  isStepDisplay,
  pairStatuses,
  peopleOf,
  plateIsOff,
  positionText,
  REFERENCE,
  requiredPairs,
  sameEnds,
  samePair,
  unexplainedSign,
} from './proof'
import {
  deadBelowVolts,
  earthBelowOhms,
  highestFirstStepVolts,
  judgeKnownLive,
  judgeReading,
  liveFromVolts,
  referenceNeutralBelowVolts,
  sameAsBefore,
  suspenseMinutes,
  type Impedance,
} from './reading'
import {
  consequenceOfPath,
  endOf,
  noBox,
  noBreaker,
  noProof,
  noSign,
  nothingEnds,
  refuseAnswer,
  seenTooEarly,
  signOf,
  type Handlers,
  type SiteContext,
} from './decide-context'
import type { InstrumentSnapshot, ReferenceSeen, SiteCommand, SiteEvent } from './schema'
import type { Proof, Sign, SiteState } from './state'

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

const ranges: Record<InstrumentSnapshot['kind'], readonly Impedance[]> = {
  high: ['high'],
  low: ['low'],
  both: ['high', 'low'],
  twoPole: ['steps'],
  nonContact: [],
}
function lacksRange(proof: Proof, impedance: Impedance): Refused | null {
  return ranges[proof.instrument.kind].includes(impedance)
    ? null
    : refuse(
        'wrongMeter',
        `${proof.instrument.name} has no ${impedance === 'steps' ? 'display in steps' : `${impedance}-impedance range`}.`,
        'Start the proof again with a tester that has it.',
      )
}

/** May anybody prove anything with this instrument now? */
function instrumentProblem(site: SiteState, instrumentId: string, instrument: InstrumentSnapshot | null, today: string): Refused | null {
  if (!instrument) return refuse('noSuchInstrument', 'This tester is not in the register.', 'Pick a tester from the register.')
  if (instrument.kind === 'nonContact')
    return refuse(
      'screenOnly',
      `${instrument.name} is a non-contact tester: a screen, never a proof.`,
      'Take a meter or a two-pole detector.',
    )
  if (instrument.kind === 'twoPole' && (instrument.lowestStepVolts ?? Infinity) > highestFirstStepVolts)
    return refuse(
      'stepTooHigh',
      `The lowest step of ${instrument.name} is above ${highestFirstStepVolts} V or not on record: no indication would prove nothing.`,
      'Take a tester with a lower first step, or have the lead record its steps.',
    )
  if (instrument.calibrationDue < today)
    return refuse(
      'calibrationOver',
      `The calibration of ${instrument.name} ended on ${instrument.calibrationDue}.`,
      'Take a tester whose calibration is in date.',
    )
  const failed = site.failedInstruments[instrumentId]
  if (instrument.outOfService || (failed && !(instrument.provedGoodAt && instrument.provedGoodAt > failed.at)))
    return refuse(
      'testerFailed',
      `${instrument.name} failed and is out of service. Nothing it says counts.`,
      'Take another tester. A lead brings it back: what was done, and good on two sources.',
    )
  return null
}

/** What a known source must show before anything is tested: the supply's voltage behind a closed breaker, or a proving unit's. */
function sourceProblem(
  site: SiteState,
  source: Extract<SiteCommand, { type: 'startProof' }>['source'],
  volts: number,
): { refused: Refused } | { refused: null; warning: string | null } {
  if (source.kind === 'provingUnit')
    return volts < liveFromVolts
      ? {
          refused: refuse(
            'testerSilent',
            `The proving unit gave ${volts} V on the tester.`,
            'Change its battery or take another tester. Do not use this one.',
          ),
        }
      : { refused: null, warning: null }
  const breaker = site.breakers[source.breakerId]
  if (!breaker) return { refused: noBreaker() }
  if (!isKnownLive(site, breaker))
    return {
      refused: refuse(
        'sourceNotLive',
        `${sentence(breakerName(site, breaker))} is ${breaker.state === 'closed' ? 'off further up' : breaker.state}: nothing behind it is a known live source.`,
        'Use a socket on a closed circuit, or a proving unit.',
      ),
    }
  const supply = judgeKnownLive(volts, supplySchemes[site.schemeId])
  return supply.ok
    ? { refused: null, warning: supply.warning }
    : {
        refused: refuse('sourceNotLive', supply.warning!, 'Use another known live source; if the tester is at fault, take it out of use.'),
      }
}

const causeMissing = (site: SiteState, sign: Sign) =>
  refuse(
    'causeMissing',
    `There was voltage at ${boxName(site, site.boxes[sign.boxId]!)}${sign.volts === null ? '' : ` (${sign.volts} V)`}, and nobody has recorded why.`,
    'Find out and record what it was. If nobody can tell: record it as unknown, then open and tag the main and all other sources.',
  )

const badReference = (why: string) =>
  refuse(
    'referenceNotGood',
    `${why} This reference proves nothing.`,
    'See it good by continuity to the main earth bar, or use a wander lead from that bar.',
  )

/** Why this is no good reference, or what has to be said about the supply. */
function referenceProblem(
  site: SiteState,
  proof: Proof,
  seen: ReferenceSeen,
): { refused: Refused } | { refused: null; warning: string | null } {
  if (seen.kind !== 'livePoint') {
    const net = seen.ohms - seen.leadOhms
    return net > earthBelowOhms
      ? {
          refused: badReference(
            `${seen.ohms} Ω less ${seen.leadOhms} Ω of leads is more than ${earthBelowOhms} Ω: ${seen.kind === 'twoEarths' ? 'the two earths are not one.' : 'no continuity to the main earth bar.'}`,
          ),
        }
      : { refused: null, warning: null }
  }
  const breaker = site.breakers[seen.breakerId]
  if (!breaker) return { refused: noBreaker() }
  if (!isKnownLive(site, breaker))
    return {
      refused: refuse(
        'pointNotLive',
        `${sentence(breakerName(site, breaker))} is ${breaker.state === 'closed' ? 'off further up' : breaker.state}: there is no live point behind it.`,
        'Use a live point on a closed circuit, or see the reference good by continuity.',
      ),
    }
  if (!ranges[proof.instrument.kind].some((range) => range !== 'high'))
    return {
      refused: refuse(
        'wrongMeter',
        `${proof.instrument.name} has no low-impedance range: against a live point a floating conductor shows anything.`,
        'See the reference good by continuity, or take a tester with low impedance.',
      ),
    }
  const { lineToNeutral, referenceToLine, referenceToNeutral } = seen
  if (isStepDisplay(proof))
    return lineToNeutral < liveFromVolts || referenceToLine !== lineToNeutral || referenceToNeutral > 0
      ? { refused: badReference('The detector does not show the same step from the reference to the line, and none to the neutral.') }
      : { refused: null, warning: null }
  const { low, high } = supplySchemes[site.schemeId].utilisationBandVolts
  const supply = judgeKnownLive(lineToNeutral, supplySchemes[site.schemeId])
  if (!supply.ok) return { refused: badReference(supply.warning!) }
  const near = Math.abs(referenceToLine - lineToNeutral) <= 0.1 * lineToNeutral
  if (!near && !(referenceToLine >= low && referenceToLine <= high))
    return { refused: badReference(`${referenceToLine} V from the reference to the line, ${lineToNeutral} V from line to neutral.`) }
  if (referenceToNeutral >= referenceNeutralBelowVolts)
    return {
      refused: badReference(
        `${referenceToNeutral} V from the reference to the neutral; below ${referenceNeutralBelowVolts} V is expected.`,
      ),
    }
  return { refused: null, warning: supply.warning }
}

/** Every proof that rests on what an instrument said since it was last seen good, here. */
export function proofsWith(site: SiteState, instrumentId: string): Proof[] {
  const goodSeq = site.instrumentGoodSeq[instrumentId] ?? 0
  return Object.values(site.proofs).filter(
    (proof) =>
      proof.instrumentId === instrumentId && (proof.status === 'open' || (proof.status === 'living' && proof.basedOnSeq >= goodSeq)),
  )
}

/** Doubts of these very pairs in this box that are now dead by low impedance; too late, what they held in suspense has ended. */
function doubtsCleared(site: SiteState, boxId: string, pairs: { a: string; b: string }[], { actor, now }: SiteContext) {
  const cleared = Object.values(site.signs).filter(
    ({ suspense, pair, ...sign }) => suspense && sign.boxId === boxId && pair !== null && pairs.some((one) => sameEnds(one, pair)),
  )
  const late = cleared.filter((sign) => minutesBetween(sign.at, now) > suspenseMinutes)
  const ended = late.flatMap((sign) => sign.suspends).flatMap((id) => site.proofs[id] ?? [])
  return { restores: cleared.map((sign) => sign.seq), ...endOf(site, ended, actor) }
}

/** The absence-of-voltage test, from the tester on a live source to the tester on a live source. */
export const proofHandlers: Handlers<
  | 'startProof'
  | 'seeReference'
  | 'takeReading'
  | 'sweepReadings'
  | 'finishProof'
  | 'recheckTester'
  | 'noteInstrumentFailed'
  | 'abandonProof'
  | 'witnessProof'
  | 'recordCause'
> = {
  startProof(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const name = boxName(site, box)
    if (site.proofs[command.proofId]) return refuse('proofExists', 'This proof already exists.')
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    const sign = unexplainedSign(site, box.id)
    if (sign) return causeMissing(site, sign)
    // That a plate is off is a fact of its own: it stands even when the proof is refused.
    if (!plateIsOff(box)) return refuse('plateOn', `The record says that ${name} is closed.`, 'Take the plate off and say so, then prove.')
    const stale = seenTooEarly(site, box, context)
    if (stale) return stale
    if (box.conductors.length === 0)
      return refuse(
        'noConductors',
        'No conductors are recorded in this box yet.',
        'Look in and record every conductor you see, without touching.',
      )
    const instrument = context.instrument(command.instrumentId)
    const problem = instrumentProblem(site, command.instrumentId, instrument, context.today)
    if (problem) return problem
    const source = sourceProblem(site, command.source, command.volts)
    if (source.refused) return source.refused
    const replaced = box.proofId ? site.proofs[box.proofId] : undefined
    const lives = replaced?.status === 'living' && proofMinutesLeft(replaced, context) > 0
    if (lives && replaced.personId !== context.actor.personId)
      return refuse('provenAlready', `${replaced.name} has a living proof here.`, 'Witness it instead.')
    const idleMinutes = replaced ? minutesBetween(replaced.touchedAt, context.now) : 0
    if (replaced?.status === 'open' && replaced.personId !== context.actor.personId && idleMinutes < takeOverMinutes)
      return refuse(
        'beingProven',
        `${replaced.name} is proving this box now.`,
        `Wait, then witness the proof. After ${takeOverMinutes} minutes without a reading you may start your own.`,
      )
    return accept<SiteEvent>({
      type: 'proofStarted',
      payload: {
        ...payloadOf(command),
        ...(lives ? endOf(site, [replaced], context.actor) : { voids: replaced ? [replaced.id] : [], alarms: [] }),
        instrument: instrument!,
        warning: source.warning,
        everyPair: context.everyPair,
        edition: 2,
      },
    })
  },

  seeReference(site, command, { actor }) {
    const proof = ownOpenProof(site, command.proofId, actor)
    if (isRefusal(proof)) return proof
    const box = site.boxes[proof.boxId]!
    if (command.reference === 'boxGround' && !command.letter)
      return refuse('referenceUnnamed', 'Say which conductor of the box is the ground you use.')
    if (command.reference !== 'boxGround' && command.letter)
      return refuse(
        'referenceUnclear',
        'A wander lead or the earth bar is no conductor of this box.',
        'Leave the letter out: every conductor of the box is read.',
      )
    if (command.letter && !box.conductors.some((conductor) => conductor.letter === command.letter))
      return refuse('noSuchConductor', `There is no conductor ${command.letter} in this box.`)
    const same = proof.reference?.kind === command.reference && proof.reference.letter === command.letter
    if (command.again && !same)
      return refuse(
        'otherReference',
        'This is not the reference the readings were made against.',
        'Look at the same one again, or read anew.',
      )
    if (command.again && !pairStatuses(site, box, proof).every(isSettled))
      return refuse('readingsMissing', 'The readings come first.', 'Finish them, then look at the reference once more.')
    const problem = referenceProblem(site, proof, command.seen)
    if (problem.refused) return problem.refused
    return accept<SiteEvent>({
      type: 'referenceSeen',
      payload: { ...payloadOf(command), warning: problem.warning, anew: !command.again && proof.readings.length > 0 },
    })
  },

  takeReading(site, command, context) {
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
      return accept<SiteEvent>({
        type: 'liveObserved',
        payload: {
          boxId: where.id,
          what: 'meter',
          volts: command.volts,
          impedance: command.impedance,
          note: `${command.a} to ${command.b}`,
          instrumentId: known!.instrumentId,
          a: command.a,
          b: command.b,
          ...signOf(site, where, actor),
        },
      })
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
      ...payloadOf(command),
      a: asked.a,
      b: asked.b,
      boxId: box.id,
      verdict: shift ? 'neutralShift' : judgement.verdict,
      stopped,
      restores: [],
    }
    if (stopped) return accept<SiteEvent>({ type: 'readingTaken', payload: { ...payload, ...signOf(site, box, actor) } })
    const floats = [asked.a, asked.b].some((letter) => box.floats.includes(letter))
    if (command.impedance === 'high' && command.volts >= liveFromVolts && !floats)
      return accept<SiteEvent>({
        type: 'readingTaken',
        payload: { ...payload, ...signOf(site, box, actor, { suspense: true, own: proof.id }) },
      })
    const dead = judgement.verdict === 'dead' && command.impedance !== 'high'
    const cleared = dead ? doubtsCleared(site, box.id, [asked], context) : { restores: [], ...nothingEnds }
    return accept<SiteEvent>({ type: 'readingTaken', payload: { ...payload, ...noSign, ...cleared } })
  },

  sweepReadings(site, command, context) {
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
    return accept<SiteEvent>({ type: 'readingsSwept', payload: { ...payloadOf(command), ...cleared } })
  },

  finishProof(site, command, context) {
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
        `${left.length} ${left.length === 1 ? 'reading is' : 'readings are'} not settled.`,
        `Next: ${next.a} to ${next.b === REFERENCE ? 'reference' : next.b}${next.position.length ? `, ${positionText(site, next.position)}` : ''}${next.status === 'repeatLow' ? ', low impedance' : ''}.`,
      )
    }
    if (!proof.referenceSeenAgain)
      return refuse(
        'referenceAgain',
        'The reference has to be seen good once more after the readings.',
        'Look at the same reference again.',
      )
    const stale = seenTooEarly(site, box, context)
    if (stale) return stale
    const sign = unexplainedSign(site, box.id)
    if (sign) return causeMissing(site, sign)
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    const instrument = context.instrument(proof.instrumentId)
    const problem = instrumentProblem(site, proof.instrumentId, instrument, context.today)
    if (problem) return problem
    const good = sameAsBefore(proof.sourceVolts, command.volts, isStepDisplay(proof)) && sourceStillLive(site, proof)
    return accept<SiteEvent>({
      type: 'proofFinished',
      payload: {
        ...payloadOf(command),
        ...nothingEnds,
        boxId: proof.boxId,
        outcome: good ? 'good' : 'recheck',
        reason: good ? null : `The tester showed ${proof.sourceVolts} V before and ${command.volts} V now.`,
        knewSeq: context.basedOnSeq,
        finishedAt: new Date(Date.parse(context.now) - context.heldMs).toISOString(),
        edition: 2,
      },
    })
  },

  recheckTester(site, command, { actor }) {
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
    return accept<SiteEvent>({
      type: 'testerRechecked',
      payload: {
        ...payloadOf(command),
        boxId: proof.boxId,
        testerGood,
        instrumentId: proof.instrumentId,
        ...endOf(site, ends, actor),
      },
    })
  },

  noteInstrumentFailed(site, command, { actor }) {
    return accept<SiteEvent>({
      type: 'instrumentFailed',
      payload: { ...payloadOf(command), ...endOf(site, proofsWith(site, command.instrumentId), actor) },
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
    return accept<SiteEvent>({
      type: 'proofAbandoned',
      payload: { ...payloadOf(command), boxId: proof.boxId, ...endOf(site, [proof], actor) },
    })
  },

  witnessProof(site, command, { actor, now, proofLimitMinutes, basedOnSeq, onVisit }) {
    const proof = site.proofs[command.proofId]
    if (!proof) return noProof()
    if (!onVisit)
      return refuse(
        'notOnVisit',
        'Only somebody who is on a visit of this home today witnesses a proof.',
        'Have the dispatcher put you on the visit, or make your own proof.',
      )
    if (proof.status !== 'living') return refuse('notProven', 'There is no finished, living proof to witness.')
    if (proofMinutesLeft(proof, { now, proofLimitMinutes }) <= 0)
      return refuse('proofExpired', 'This proof is too old to rely on.', 'Prove it dead again.')
    if (basedOnSeq < proof.basedOnSeq)
      return refuse('lateWord', 'You said this before the proof was finished.', 'Look at it, then witness.')
    if (proof.personId === actor.personId) return refuse('ownProof', 'Nobody witnesses their own proof.', 'Ask a crew mate.')
    if (peopleOf(proof).some((person) => person.personId === actor.personId))
      return refuse('alreadyWitnessed', 'You have already witnessed this proof.')
    return accept<SiteEvent>({ type: 'proofWitnessed', payload: { ...payloadOf(command), boxId: proof.boxId } })
  },

  recordCause(site, command, context) {
    const { actor } = context
    const sign = site.signs[command.signSeq]
    if (!sign) return refuse('noSuchSign', 'Nobody waits for the cause of this any more.')
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
        return refuse('notHigh', 'A ghost is what a high-impedance meter shows; this was read by low impedance.', 'Choose another cause.')
      if (cause.kind === 'mistyped' && (sign.personId !== actor.personId || sign.instrumentId !== cause.again.instrumentId))
        return refuse('notYours', `Only ${sign.name} can say that it was mistyped, with the same instrument.`, 'Choose another cause.')
      if (Object.values(site.grants).length > 0 || context.basedOnSeq < sign.seq || context.heldMs > 60_000)
        return refuse('lateWord', 'This was read before the record was as it is now.', 'Read the pair again, then say it.')
    }
    const grant = Object.values(site.grants)[0]
    // Were any breaker to feed them from now on, leave that was given before would be for one that feeds an open box.
    if (cause.kind === 'unknown' && grant)
      return refuse(
        'grantOutstanding',
        `${grant.name} may be closing ${breakerName(site, site.breakers[grant.breakerId]!)} right now.`,
        `Have ${grant.name} answer the request first.`,
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
          ? // Any breaker may feed them now: whoever has leave to close one was told yes before.
            consequenceOfPath(site, boxes, [], actor)
          : endOf(site, suspended, actor)
    return accept<SiteEvent>({
      type: 'causeRecorded',
      payload: { ...payloadOf(command), boxId: box.id, reached: sign.reached, instrumentId: sign.instrumentId, ...ends },
    })
  },
}

/** The shifted neutral of the supply: against the reference told by that neutral, to others by what it read there. */
function isShift(proof: Proof, { a, b, volts, neutral }: Extract<SiteCommand, { type: 'takeReading' }>): boolean {
  if (!proof.reference) return false
  if (b === REFERENCE) return isNeutralShift(proof.reference.seen, volts, neutral)
  const known = proof.readings.find((one) => one.verdict === 'neutralShift' && one.b === REFERENCE && (one.a === a || one.a === b))
  return known !== undefined && isNeutralShift(proof.reference.seen, volts, { toReference: known.volts, toConductor: 0 })
}

const noReference = () =>
  refuse('noReference', 'No reference has been seen good yet. Without one a reading proves nothing.', 'See the reference good first.')

/** A source that was switched off in between shows nothing of the tester. */
const sourceStillLive = (site: SiteState, proof: Proof) => {
  const breaker = proof.sourceBreakerId ? site.breakers[proof.sourceBreakerId] : null
  return !breaker || isKnownLive(site, breaker)
}
