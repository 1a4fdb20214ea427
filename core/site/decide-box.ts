import { accept, payloadOf, refuse } from '../stream'
import { boxesBehind, isKnownLive } from './feeds'
import { breakerName, canTouch, energySeqOf, grantReaching, hasLicensedEyes, isIsolatedFor, sentence, soloOf } from './permissions'
import { boxName, plateIsOff, proofsIn } from './proof'
import { deadBelowVolts, liveFromVolts, sameAsBefore } from './reading'
import {
  consequenceFor,
  consequenceOfPath,
  endOf,
  noBox,
  noBreaker,
  nothingEnds,
  noSign,
  refuseAnswer,
  seenTooEarly,
  signOf,
  waited,
  type Handlers,
  type SiteContext,
} from './decide-context'
import type { SiteCommand, SiteEvent } from './schema'
import type { BoxState, SiteState } from './state'

/** A clamp that shows less than this counts as no current, A. Common practice, no source. */
export const noCurrentBelowAmps = 0.1
/** How long “the box is closed” can be taken back, s. Common practice, no source. */
export const undoSeconds = 60

/** Did somebody else say that it is open, later than this person knew? One's own words arrive in order. */
const openedSince = (box: BoxState, { actor, basedOnSeq }: SiteContext) =>
  Object.entries(box.openWords).some(([personId, seq]) => personId !== actor.personId && seq > basedOnSeq)
const lateWord = (site: SiteState, box: BoxState) =>
  refuse('lateWord', `${sentence(boxName(site, box))} was opened again after that.`, 'Look at the box, then say how it is now.')

/** The boxes of a site that a layout gives a path more: a feed, an unknown feed, another far switch, a supply of their panel. */
function boxesChangedBy(site: SiteState, command: Extract<SiteCommand, { type: 'layOut' }>): BoxState[] {
  const supplies = command.breakers.some((breaker) => breaker.suppliesPanelId !== null && site.panels[breaker.suppliesPanelId])
  const sources = command.sources.some((source) => !site.sources[source.id])
  if (supplies || sources) return Object.values(site.boxes)
  return command.boxes.flatMap((added) => {
    const known = site.boxes[added.id]
    const more =
      known &&
      (added.breakerIds.some((id) => !known.breakerIds.includes(id)) ||
        (added.unknownFeed && added.breakerIds.length > 0 && !known.unknownFeed) ||
        added.farBoxIds.some((id) => !known.farBoxIds.includes(id)))
    return more ? [known] : []
  })
}

/** Layout, feeds, boxes and what is seen in them. */
export const boxHandlers: Handlers<
  | 'layOut'
  | 'observeLive'
  | 'setFeeds'
  | 'observeRound'
  | 'takeBackRound'
  | 'scopeHunt'
  | 'forgetRounds'
  | 'tieNeutrals'
  | 'openBox'
  | 'lookIn'
  | 'closeBox'
  | 'undoClose'
  | 'guardBox'
  | 'takeOverGuard'
  | 'recordConductors'
  | 'moveReading'
  | 'partNeutral'
  | 'testParted'
> = {
  layOut(site, command) {
    const breakers = new Set([...Object.keys(site.breakers), ...command.breakers.map((breaker) => breaker.id)])
    const boxes = new Set([...Object.keys(site.boxes), ...command.boxes.map((box) => box.id)])
    for (const box of command.boxes) {
      if (box.breakerIds.some((id) => !breakers.has(id)) || box.farBoxIds.some((id) => !boxes.has(id)))
        return refuse('brokenLayout', `${box.name} refers to a breaker or box that is not there.`)
    }
    if (command.breakers.some((breaker) => site.breakers[breaker.id]))
      return refuse('brokenLayout', 'A breaker in this layout already exists at the site.')
    if (site.seq > 0 && command.schemeId !== site.schemeId)
      return refuse(
        'schemeFixed',
        'This home is on record with the other supply.',
        'Check the address: a home does not change its supply. If the first record is wrong, begin a new one.',
      )
    // Who lays out from a desk may be the one whose hands are in the box, by an account that is open in two places.
    return accept<SiteEvent>({
      type: 'siteLaidOut',
      payload: { ...payloadOf(command), ...consequenceOfPath(site, boxesChangedBy(site, command), [], null) },
    })
  },

  observeLive(site, command, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const high = command.what === 'meter' && command.impedance === 'high'
    // Below 50 V a high-impedance meter says nothing of other boxes: coupled voltage.
    const reach = command.what === 'tester' || (high && (command.volts ?? 0) < liveFromVolts) ? 'own' : 'all'
    return accept<SiteEvent>({
      type: 'liveObserved',
      payload: { ...payloadOf(command), instrumentId: null, a: '', b: '', ...signOf(site, box, actor, { reach, suspense: high }) },
    })
  },

  setFeeds(site, command, context) {
    const { actor } = context
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
    if (drops && waited(context))
      return refuse(
        'onlineOnly',
        'Ruling a feed out is for now: things may have changed since.',
        'Look at the power as it is now, then say it again.',
      )
    return accept<SiteEvent>({ type: 'feedsSet', payload: { ...payloadOf(command), ...consequenceOfPath(site, [box], [], actor) } })
  },

  observeRound(site, command, { actor, basedOnSeq }) {
    const ids = Object.keys(command.seen)
    if (ids.some((id) => !site.boxes[id])) return noBox()
    const breakers = Object.values(site.breakers)
    const above = breakers.find((breaker) => breaker.role !== 'branch' && breaker.state !== 'closed')
    if (above)
      return refuse(
        'panelOff',
        `${sentence(breakerName(site, above))} is ${above.state}: no light says anything.`,
        `Close ${breakerName(site, above)}, or hunt by day.`,
      )
    const moved = breakers.find((breaker) => breaker.stateSeq > basedOnSeq)
    if (moved || Object.keys(site.grants).length > 0)
      return refuse('stillMoving', 'Breakers were moved since you looked.', 'Look at the lights again, then say what you see.')
    const doubtful = breakers.find((breaker) => breaker.state === 'unknown')
    if (doubtful) return refuse('stillMoving', `Nobody knows how ${breakerName(site, doubtful)} is.`, 'Have somebody look at it.')
    const open = breakers.filter((breaker) => breaker.state !== 'closed').map((breaker) => breaker.id)
    const on = ids.filter((id) => command.seen[id] !== 'off').map((id) => site.boxes[id]!)
    // On, with every feed on record open: something else feeds it, and whatever is not shown apart from it.
    const odd = on.find((box) => box.breakerIds.length > 0 && box.breakerIds.every((id) => open.includes(id)))
    const sign = odd ? signOf(site, odd, actor) : noSign
    const seen = consequenceFor(site, on, [], actor)
    return accept<SiteEvent>({
      type: 'roundSeen',
      payload: {
        ...payloadOf(command),
        open,
        ...sign,
        voids: [...new Set([...seen.voids, ...sign.voids])],
        alarms: [...new Set([...seen.alarms, ...sign.alarms])],
      },
    })
  },

  takeBackRound(site, command) {
    if (site.huntRounds.length !== command.round)
      return refuse('noRound', `Round ${command.round} is not the newest any more.`, 'Look at what is stored now.')
    return accept<SiteEvent>({ type: 'roundTakenBack', payload: payloadOf(command) })
  },

  scopeHunt(site, command) {
    if (command.boxIds.some((id) => !site.boxes[id])) return noBox()
    return accept<SiteEvent>({ type: 'huntScoped', payload: payloadOf(command) })
  },

  forgetRounds(site, command, { actor }) {
    if (!actor.licensed) return refuse('licenceNeeded', 'A licensed person starts the hunt over.', 'Ask one.')
    return accept<SiteEvent>({ type: 'roundsForgotten', payload: payloadOf(command) })
  },

  tieNeutrals(site, command, { actor }) {
    if (command.breakerIds.some((id) => !site.breakers[id])) return noBreaker()
    const boxes = command.breakerIds.flatMap((id) => boxesBehind(site, id))
    return accept<SiteEvent>({
      type: 'neutralsTied',
      payload: { ...payloadOf(command), ...consequenceOfPath(site, boxes, command.breakerIds, actor) },
    })
  },

  openBox(site, command, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    // A fact, taken also when it is said to be open already: a plate may have been put on and taken off again meanwhile.
    // Whoever may be closing a breaker on it right now has to know.
    const grant = grantReaching(site, box)
    const alarms = grant && grant.personId !== actor.personId ? [grant.personId] : []
    return accept<SiteEvent>({ type: 'boxOpened', payload: { ...payloadOf(command), alarms } })
  },

  lookIn(site, command, { actor, now }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (!actor.licensed)
      return refuse('licenceNeeded', 'Looking into a box with the power on is for a licensed person.', 'Open and tag its breaker first.')
    if (plateIsOff(box)) return refuse('alreadyOpen', `${sentence(boxName(site, box))} is open already.`)
    const warnedIds = command.warnedIds.filter((id) => id !== actor.personId)
    if (warnedIds.length === 0 && !soloOf(site, actor.personId, { now }).working)
      return refuse('nobodyWarned', 'Nobody is warned.', 'Name the crew mate you told, or start working alone with a contact.')
    const grant = grantReaching(site, box)
    const alarms = grant && grant.personId !== actor.personId ? [grant.personId] : []
    return accept<SiteEvent>({ type: 'boxLookedInto', payload: { ...payloadOf(command), warnedIds, alarms } })
  },

  closeBox(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure === 'closed') return refuse('alreadyClosed', `${sentence(boxName(site, box))} is already closed.`)
    if (openedSince(box, context)) return lateWord(site, box)
    // Nothing was touched: putting the plate back needs nothing.
    if (box.closure === 'looking') return accept<SiteEvent>({ type: 'boxClosed', payload: { ...payloadOf(command), ...nothingEnds } })
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    return accept<SiteEvent>({
      type: 'boxClosed',
      payload: { ...payloadOf(command), ...endOf(site, proofsIn(site, [box]), context.actor) },
    })
  },

  undoClose(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const { closedBy } = box
    const late = !closedBy || Date.parse(context.now) - Date.parse(closedBy.at) > undoSeconds * 1000
    if (box.closure !== 'closed' || late || closedBy.personId !== context.actor.personId || waited(context))
      return refuse(
        'tooLate',
        'This can be taken back for a minute, by whoever said it.',
        'Take the plate off and say so, then prove again.',
      )
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    // Power may have come since: then it is opened and proven like any other box.
    if (energySeqOf(site, box) > closedBy.seq || grantReaching(site, box))
      return refuse('seenTooEarly', 'Power may have been on here since.', 'Take the plate off and say so, then prove again.')
    return accept<SiteEvent>({ type: 'boxReopened', payload: payloadOf(command) })
  },

  guardBox(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure !== 'opened') return refuse('notOpen', `${sentence(boxName(site, box))} is not open.`)
    if (openedSince(box, context)) return lateWord(site, box)
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    return accept<SiteEvent>({
      type: 'boxGuarded',
      payload: { ...payloadOf(command), ...endOf(site, proofsIn(site, [box]), context.actor) },
    })
  },

  takeOverGuard(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure !== 'guarded') return refuse('notGuarded', `${sentence(boxName(site, box))} is not capped and guarded.`)
    if (box.guardedBy?.personId === context.actor.personId && context.actor.personId in site.onSite)
      return refuse('alreadyYours', 'You guard this box already.')
    if (waited(context)) return refuse('onlineOnly', 'This waited without network.', 'Look at the box again, then take it over.')
    return accept<SiteEvent>({ type: 'guardTakenOver', payload: payloadOf(command) })
  },

  recordConductors(site, command, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const letters = command.conductors.map((conductor) => conductor.letter)
    if (new Set(letters).size !== letters.length)
      return refuse('sameLetter', 'Two conductors carry the same letter.', 'Give each conductor its own letter.')
    const hidden = box.readLive.find((letter) => !letters.includes(letter))
    if (hidden && box.closure === 'opened')
      return refuse(
        'readLive',
        `${hidden} showed voltage since the box was opened: it stays on the list while the box is open.`,
        'If the reading belongs to another conductor, move it to that letter first.',
      )
    const known = new Set(box.conductors.map((conductor) => conductor.letter))
    const changed = letters.some((letter) => !known.has(letter)) || known.size !== letters.length
    return accept<SiteEvent>({
      type: 'conductorsRecorded',
      payload: { ...payloadOf(command), ...(changed ? consequenceFor(site, [box], [], actor) : nothingEnds) },
    })
  },

  moveReading(site, command) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (!box.readLive.includes(command.from)) return refuse('noSuchReading', `${command.from} has shown no voltage.`)
    if (!box.conductors.some((conductor) => conductor.letter === command.to))
      return refuse(
        'noSuchConductor',
        `There is no conductor ${command.to} in ${boxName(site, box)}.`,
        'Record it first, then move the reading.',
      )
    return accept<SiteEvent>({ type: 'readingMoved', payload: payloadOf(command) })
  },

  partNeutral(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    if (box.parted.some((part) => part.id === command.partId)) return refuse('partExists', 'This splice is already recorded as parted.')
    const { basis } = command
    if (box.shifted.length > 0)
      return refuse(
        'neutralShifted',
        `${box.shifted.join(', ')} ${box.shifted.length === 1 ? 'reads' : 'read'} what the neutral of the supply reads: current of other circuits flows in it.`,
        'Leave its splice closed. Parting it needs its neutral pole open and tagged too: call the licensed lead.',
      )
    if (basis.kind === 'clamp' && basis.amps >= noCurrentBelowAmps)
      return refuse(
        'neutralCarries',
        `The neutral carries ${basis.amps} A: another circuit uses it. Parted, its far end is live.`,
        'Find the partner circuit, record the shared neutral, open and tag its breaker too.',
      )
    if (basis.kind === 'clamp' && !basis.loadsOn)
      return refuse(
        'loadsOff',
        'A clamp that shows nothing proves nothing while loads are off.',
        'Have lamps and loads of the other circuits switched on, clamp again, then say so.',
      )
    const tied = site.neutralTies.filter((tie) => tie.some((id) => box.breakerIds.includes(id))).flat()
    for (const id of new Set(tied)) {
      const partner = isIsolatedFor(site, { ...box, breakerIds: [id], unknownFeed: false }, context.actor.personId)
      if (!partner.yes)
        return refuse(
          'partnerNotOpen',
          `${sentence(breakerName(site, site.breakers[id]!))} shares this neutral and is not open with your tag.`,
          partner.toYes,
        )
    }
    if (basis.kind === 'partnersOpen') {
      for (const id of basis.breakerIds) {
        const partner = site.breakers[id]
        if (!partner) return noBreaker()
        const isolation = isIsolatedFor(site, { ...box, breakerIds: [id], unknownFeed: false }, context.actor.personId)
        if (!isolation.yes)
          return refuse('partnerNotOpen', `${sentence(breakerName(site, partner))} is not open with your tag.`, isolation.toYes)
      }
      // "Suspected partners" are all that carry power and are not known to be apart: with none named a clamp is needed.
      const live = Object.values(site.breakers).filter(
        (breaker) => breaker.role === 'branch' && isKnownLive(site, breaker) && !basis.breakerIds.includes(breaker.id),
      )
      if (live.length > 0 && box.unknownFeed)
        return refuse(
          'partnersUnknown',
          'The feeds of this box are not known, so its partners are not either.',
          'Measure with a clamp, or open the main.',
        )
    }
    return accept<SiteEvent>({ type: 'neutralParted', payload: payloadOf(command) })
  },

  testParted(site, command, context) {
    const { actor } = context
    const box = Object.values(site.boxes).find((candidate) => candidate.parted.some((part) => part.id === command.partId))
    const part = box?.parted.find((candidate) => candidate.id === command.partId)
    if (!box || !part) return refuse('noSuchPart', 'This splice is not recorded as parted.')
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
          'The two ends are tested as in a proof, by the person whose proof of this box lives.',
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
    return accept<SiteEvent>({
      type: 'partedTested',
      payload: { ...payloadOf(command), boxId: box.id, stopped, ...(stopped ? signOf(site, box, actor) : noSign) },
    })
  },
}
