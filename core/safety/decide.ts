import { accept, payloadOf, refuse, type Actor, type Decision } from '../stream'
import { supplySchemes } from '../units'
import { boxesBehind, grantOn } from './feeds'
import {
  breakerName,
  canClose,
  canTag,
  canTouch,
  isIsolatedFor,
  minutesBetween,
  proofMinutesLeft,
  type Answer,
  type SafetyClock,
} from './permissions'
import { farPositions, pairStatuses, peopleAtRisk, proofsBehind, proofsIn, samePair, requiredPairs } from './proof'
import { judgeKnownLive, judgeReading, liveFromVolts } from './reading'
import type { Consequence, InstrumentSnapshot, SiteCommand, SiteCommandType, SiteEvent } from './schema'
import type { BoxState, Proof, SiteState } from './state'

/** What the record of a site cannot know by itself. */
export interface SiteContext extends SafetyClock {
  actor: Actor
  /** Works on a job at this site today or leads the branch. */
  onCrew: boolean
  /** The newest seq the client had seen when the person acted. */
  basedOnSeq: number
  /** Register entry of an instrument, or null when the company has no such instrument. */
  instrument(id: string): InstrumentSnapshot | null
}

type Handlers = {
  [T in SiteCommandType]: (site: SiteState, command: Extract<SiteCommand, { type: T }>, context: SiteContext) => Decision<SiteEvent>
}

/** A mate may start over when an unfinished proof has rested this long. Common practice, no source. */
const takeOverMinutes = 10

const refuseAnswer = (answer: Extract<Answer, { yes: false }>) => refuse(answer.code, answer.reasons, answer.toYes)
const noBox = () => refuse('noSuchBox', 'There is no such box at this site.')
const noBreaker = () => refuse('noSuchBreaker', 'There is no such breaker at this site.')
const noProof = () => refuse('noSuchProof', 'There is no such proof at this site.')

function consequenceFor(site: SiteState, boxes: BoxState[], breakerIds: string[], actor: Actor): Consequence {
  const proofs = proofsIn(site, boxes)
  const alarms = peopleAtRisk(site, proofs, breakerIds).filter((id) => id !== actor.personId)
  return { voids: proofs.map((proof) => proof.id), alarms }
}

/** A sign of voltage in a box may come from any of its feeds, so every box that shares one is in doubt. */
function boxesSharingFeed(site: SiteState, box: BoxState): BoxState[] {
  const boxes = new Set<BoxState>([box])
  for (const id of box.breakerIds) for (const other of boxesBehind(site, id)) boxes.add(other)
  return [...boxes]
}

function ownOpenProof(site: SiteState, proofId: string, actor: Actor): Proof | ReturnType<typeof refuse> {
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
const isRefusal = (value: Proof | ReturnType<typeof refuse>): value is ReturnType<typeof refuse> => 'ok' in value

const handlers: Handlers = {
  layOut(site, command) {
    const breakers = new Set([...Object.keys(site.breakers), ...command.breakers.map((breaker) => breaker.id)])
    const boxes = new Set([...Object.keys(site.boxes), ...command.boxes.map((box) => box.id)])
    for (const box of command.boxes) {
      if (box.breakerIds.some((id) => !breakers.has(id)) || box.farBoxIds.some((id) => !boxes.has(id)))
        return refuse('brokenLayout', `${box.name} refers to a breaker or box that is not there.`)
    }
    if (command.breakers.some((breaker) => site.breakers[breaker.id]))
      return refuse('brokenLayout', 'A breaker in this layout already exists at the site.')
    return accept<SiteEvent>({ type: 'siteLaidOut', payload: payloadOf(command) })
  },

  observeBreaker(site, command, { actor, basedOnSeq }) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    const behind = boxesBehind(site, breaker.id)
    const grantHeld = grantOn(site, breaker.id) !== undefined
    // A fact is always taken. One that would make things safer counts only if its maker knew of the last
    // sign of power, and while nobody holds leave to close this breaker.
    const late = command.state === 'open' && (basedOnSeq < breaker.energisedSeq || grantHeld)
    const consequence = command.state === 'open' ? { voids: [], alarms: [] } : consequenceFor(site, behind, [breaker.id], actor)
    return accept<SiteEvent>({ type: 'breakerObserved', payload: { ...payloadOf(command), late, ...consequence } })
  },

  observeLive(site, command, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    return accept<SiteEvent>({
      type: 'liveObserved',
      payload: { ...payloadOf(command), ...consequenceFor(site, boxesSharingFeed(site, box), box.breakerIds, actor) },
    })
  },

  recordTripCause(site, command) {
    if (!site.breakers[command.breakerId]) return noBreaker()
    return accept<SiteEvent>({ type: 'tripCauseRecorded', payload: payloadOf(command) })
  },

  markOffLimits(site, command, { actor }) {
    if (!site.breakers[command.breakerId]) return noBreaker()
    if (command.reason === null && actor.role !== 'lead' && actor.role !== 'dispatcher')
      return refuse('leadOnly', 'Only a lead or the dispatcher lifts a "do not open".', 'Ask the lead.')
    return accept<SiteEvent>({ type: 'offLimitsMarked', payload: payloadOf(command) })
  },

  hangTag(site, command, { actor }) {
    const answer = canTag(site, command.breakerId, actor)
    if (!answer.yes) return refuseAnswer(answer)
    if (!command.lock && !command.measure)
      return refuse(
        'noLock',
        'A tag stands for a lock, or for a written extra measure.',
        'Name the lock, or write what else keeps the breaker open.',
      )
    if (site.tags[command.tagId]) return refuse('tagExists', 'This tag already hangs.')
    return accept<SiteEvent>({ type: 'tagHung', payload: payloadOf(command) })
  },

  removeTag(site, command, { actor }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (tag.personId !== actor.personId)
      return refuse(
        'notYourTag',
        `This is the tag of ${tag.name}. Only ${tag.initials} takes it off.`,
        `Ask ${tag.initials}. If they have left the building, a lead can take it off on record.`,
      )
    const voids = proofsBehind(site, tag.breakerId)
      .filter((proof) => proof.personId === actor.personId)
      .map((proof) => proof.id)
    return accept<SiteEvent>({ type: 'tagRemoved', payload: { ...payloadOf(command), breakerId: tag.breakerId, voids } })
  },

  overrideTag(site, command, { actor }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (actor.role !== 'lead') return refuse('leadOnly', 'Only a lead may take off the tag of somebody who is absent.', 'Call the lead.')
    if (tag.personId === actor.personId) return refuse('ownTag', 'This is your own tag: take it off yourself.')
    const voids = proofsBehind(site, tag.breakerId)
      .filter((proof) => proof.personId === tag.personId)
      .map((proof) => proof.id)
    return accept<SiteEvent>({
      type: 'tagOverridden',
      payload: {
        ...payloadOf(command),
        breakerId: tag.breakerId,
        ownerId: tag.personId,
        ownerName: tag.name,
        voids,
        alarms: [tag.personId],
      },
    })
  },

  setFeeds(site, command, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (command.breakerIds.some((id) => !site.breakers[id])) return noBreaker()
    const drops = box.breakerIds.some((id) => !command.breakerIds.includes(id)) || (box.unknownFeed && !command.unknownFeed)
    if (drops && !actor.licensed)
      return refuse(
        'licenceNeeded',
        'Ruling a feed out makes a box look safer: a licensed person does that.',
        'Add what you found, and ask a licensed crew mate.',
      )
    return accept<SiteEvent>({ type: 'feedsSet', payload: { ...payloadOf(command), ...consequenceFor(site, [box], [], actor) } })
  },

  tieNeutrals(site, command, { actor }) {
    if (command.breakerIds.some((id) => !site.breakers[id])) return noBreaker()
    const boxes = command.breakerIds.flatMap((id) => boxesBehind(site, id))
    return accept<SiteEvent>({
      type: 'neutralsTied',
      payload: { ...payloadOf(command), ...consequenceFor(site, boxes, command.breakerIds, actor) },
    })
  },

  openBox(site, command) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure === 'opened') return refuse('alreadyOpen', `${box.name} is already open.`)
    return accept<SiteEvent>({ type: 'boxOpened', payload: payloadOf(command) })
  },

  closeBox(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure === 'closed') return refuse('alreadyClosed', `${box.name} is already closed.`)
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    return accept<SiteEvent>({
      type: 'boxClosed',
      payload: { ...payloadOf(command), voids: proofsIn(site, [box]).map((proof) => proof.id) },
    })
  },

  guardBox(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure !== 'opened') return refuse('notOpen', `${box.name} is not open.`)
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    return accept<SiteEvent>({
      type: 'boxGuarded',
      payload: { ...payloadOf(command), voids: proofsIn(site, [box]).map((proof) => proof.id) },
    })
  },

  recordConductors(site, command, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const letters = command.conductors.map((conductor) => conductor.letter)
    if (new Set(letters).size !== letters.length)
      return refuse('sameLetter', 'Two conductors carry the same letter.', 'Give each conductor its own letter.')
    const known = new Set(box.conductors.map((conductor) => conductor.letter))
    const changed = letters.some((letter) => !known.has(letter)) || known.size !== letters.length
    const consequence = changed ? consequenceFor(site, [box], [], actor) : { voids: [], alarms: [] }
    return accept<SiteEvent>({ type: 'conductorsRecorded', payload: { ...payloadOf(command), ...consequence } })
  },

  startProof(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (site.proofs[command.proofId]) return refuse('proofExists', 'This proof already exists.')
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
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
    const scheme = supplySchemes[site.schemeId]
    let warning: string | null = null
    if (command.source.kind === 'breaker') {
      const source = site.breakers[command.source.breakerId]
      if (!source) return noBreaker()
      if (source.state !== 'closed')
        return refuse(
          'sourceNotLive',
          `${breakerName(source)} is ${source.state}: nothing behind it is a known live source.`,
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

  takeReading(site, command, { actor }) {
    const proof = ownOpenProof(site, command.proofId, actor)
    if (isRefusal(proof)) return proof
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
    if (proof.instrument.kind !== 'both' && proof.instrument.kind !== command.impedance)
      return refuse(
        'wrongMeter',
        `${proof.instrument.name} has no ${command.impedance}-impedance range.`,
        'Start the proof again with a tester that has it.',
      )
    const judgement = judgeReading(command.volts, command.impedance)
    const stopped = judgement.verdict === 'live' || judgement.verdict === 'unexplained'
    const consequence = stopped ? consequenceFor(site, boxesSharingFeed(site, box), box.breakerIds, actor) : { voids: [], alarms: [] }
    return accept<SiteEvent>({
      type: 'readingTaken',
      payload: { ...payloadOf(command), a: asked.a, b: asked.b, verdict: judgement.verdict, stopped, ...consequence },
    })
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
        reason: good ? null : `The tester read ${command.volts} V on its second check: nothing it said counts.`,
      },
    })
  },

  abandonProof(site, command, { actor }) {
    const proof = site.proofs[command.proofId]
    if (!proof) return noProof()
    if (proof.personId !== actor.personId && actor.role !== 'lead') return refuse('notYours', `This proof is ${proof.name}'s.`)
    if (proof.status === 'void') return refuse('proofClosed', 'This proof has already ended.')
    return accept<SiteEvent>({ type: 'proofAbandoned', payload: { ...payloadOf(command), boxId: proof.boxId } })
  },

  witnessProof(site, command, { actor, now, proofLimitMinutes }) {
    const proof = site.proofs[command.proofId]
    if (!proof) return noProof()
    if (proof.status !== 'living') return refuse('notProven', 'There is no finished, living proof to witness.')
    if (proofMinutesLeft(proof, { now, proofLimitMinutes }) <= 0)
      return refuse('proofExpired', 'This proof is too old to rely on.', 'Prove it dead again.')
    if (proof.personId === actor.personId) return refuse('ownProof', 'Nobody witnesses their own proof.', 'Ask a crew mate.')
    if (proof.witnesses.some((witness) => witness.personId === actor.personId))
      return refuse('alreadyWitnessed', 'You have already witnessed this proof.')
    return accept<SiteEvent>({ type: 'proofWitnessed', payload: { ...payloadOf(command), boxId: proof.boxId } })
  },

  requestClose(site, command, { actor }) {
    const answer = canClose(site, command.breakerId)
    if (!answer.yes) return refuseAnswer(answer)
    if (site.grants[command.grantId]) return refuse('grantExists', 'This request is already known.')
    return accept<SiteEvent>({
      type: 'closeGranted',
      payload: { ...payloadOf(command), ...consequenceFor(site, boxesBehind(site, command.breakerId), [command.breakerId], actor) },
    })
  },

  answerGrant(site, command, { actor }) {
    const grant = site.grants[command.grantId]
    if (!grant) return refuse('noSuchGrant', 'This request is no longer open.')
    if (grant.personId !== actor.personId && actor.role !== 'lead') return refuse('notYours', `${grant.name} asked and has to answer.`)
    return accept<SiteEvent>({ type: 'grantAnswered', payload: { ...payloadOf(command), breakerId: grant.breakerId } })
  },

  leaveSite(site, _command, { actor }) {
    return decideLeave(site, actor)
  },
}

/** Leaving ends one's proofs and is refused while one's tags, grants or open boxes are left behind. */
export function decideLeave(site: SiteState, actor: Actor): Decision<SiteEvent> {
  const tags = Object.values(site.tags).filter((tag) => tag.personId === actor.personId)
  if (tags.length > 0) {
    const names = tags.map((tag) => breakerName(site.breakers[tag.breakerId]!)).join(', ')
    return refuse('tagsLeft', `Your tag still hangs on ${names}.`, 'Close up or guard the boxes, take your tags off, then leave.')
  }
  const grant = Object.values(site.grants).find((candidate) => candidate.personId === actor.personId)
  if (grant)
    return refuse(
      'grantLeft',
      `You asked to close ${breakerName(site.breakers[grant.breakerId]!)} and have not said whether it is closed.`,
      'Answer the request first.',
    )
  const voids = Object.values(site.proofs)
    .filter((proof) => proof.status !== 'void' && proof.personId === actor.personId)
    .map((proof) => proof.id)
  return accept<SiteEvent>({ type: 'siteLeft', payload: { voids } })
}

/** Facts are taken from anybody who sees the site; everything else needs a place on its crew. */
export const factTypes: ReadonlySet<SiteCommandType> = new Set([
  'observeBreaker',
  'observeLive',
  'recordTripCause',
  'tieNeutrals',
  'leaveSite',
])
const officeTypes: ReadonlySet<SiteCommandType> = new Set(['layOut', 'markOffLimits'])
/** What only its owner does: whoever left a visit must still be able to take their own things back. */
const ownerTypes: ReadonlySet<SiteCommandType> = new Set(['removeTag', 'answerGrant', 'abandonProof'])

/** Decides one command against the energy record of a site. */
export function decideSite(site: SiteState, command: SiteCommand, context: SiteContext): Decision<SiteEvent> {
  if (site.unknownEvent && !factTypes.has(command.type))
    return refuse(
      'updateNeeded',
      `This program does not understand an entry in the site's record (${site.unknownEvent}).`,
      'Update the program, then try again.',
    )
  const office = context.actor.role === 'dispatcher' || context.actor.role === 'lead'
  if (command.type === 'layOut' && !office) return refuse('officeOnly', 'Only the dispatcher or a lead lays out a site.')
  if (!context.onCrew && !factTypes.has(command.type) && !ownerTypes.has(command.type) && !(office && officeTypes.has(command.type)))
    return refuse(
      'notOnCrew',
      'You are not on a crew at this site.',
      'Ask the dispatcher to put you on the visit. Facts you saw can be reported all the same.',
    )
  const handler = handlers[command.type] as (site: SiteState, command: SiteCommand, context: SiteContext) => Decision<SiteEvent>
  return handler(site, command, context)
}
