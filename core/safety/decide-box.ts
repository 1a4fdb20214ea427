import { accept, payloadOf, refuse } from '../stream'
import { boxesBehind, isKnownLive } from './feeds'
import { breakerName, canTouch, grantReaching, isIsolatedFor } from './permissions'
import { proofsIn } from './proof'
import { deadBelowVolts } from './reading'
import { boxesSharingFeed, consequenceFor, noBox, noBreaker, refuseAnswer, type Handlers, type SiteContext } from './decide-context'
import type { SiteEvent } from './schema'
import type { BoxState } from './state'

/** A clamp that shows less than this counts as no current, A. Common practice, no source. */
export const noCurrentBelowAmps = 0.1

/** Did somebody else say that it is open, later than this person knew? One's own words arrive in order. */
const openedSince = (box: BoxState, { actor, basedOnSeq }: SiteContext) =>
  Object.entries(box.openWords).some(([personId, seq]) => personId !== actor.personId && seq > basedOnSeq)
const lateWord = (box: BoxState) =>
  refuse('lateWord', `${box.name} was opened again after that.`, 'Look at the box, then say how it is now.')

/** Layout, feeds, boxes and what is seen in them. */
export const boxHandlers: Handlers<
  | 'layOut'
  | 'observeLive'
  | 'setFeeds'
  | 'observeRound'
  | 'forgetRounds'
  | 'tieNeutrals'
  | 'openBox'
  | 'closeBox'
  | 'guardBox'
  | 'recordConductors'
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
    return accept<SiteEvent>({ type: 'siteLaidOut', payload: payloadOf(command) })
  },

  observeLive(site, command, { actor }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    return accept<SiteEvent>({
      type: 'liveObserved',
      payload: { ...payloadOf(command), ...consequenceFor(site, boxesSharingFeed(site, box), box.breakerIds, actor) },
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

  observeRound(site, command, { actor, basedOnSeq }) {
    const ids = Object.keys(command.seen)
    if (ids.some((id) => !site.boxes[id])) return noBox()
    const breakers = Object.values(site.breakers)
    const above = breakers.find((breaker) => breaker.role !== 'branch' && breaker.state !== 'closed')
    if (above)
      return refuse(
        'panelOff',
        `${breakerName(above)} is ${above.state}: no light says anything.`,
        `Close ${breakerName(above)}, or hunt by day.`,
      )
    const moved = breakers.find((breaker) => breaker.stateSeq > basedOnSeq)
    if (moved || Object.keys(site.grants).length > 0)
      return refuse('stillMoving', 'Breakers were moved since you looked.', 'Look at the lights again, then say what you see.')
    const doubtful = breakers.find((breaker) => breaker.state === 'unknown')
    if (doubtful) return refuse('stillMoving', `Nobody knows how ${breakerName(doubtful)} is.`, 'Have somebody look at it.')
    const on = ids.filter((id) => command.seen[id] === 'on').map((id) => site.boxes[id]!)
    return accept<SiteEvent>({
      type: 'roundSeen',
      payload: {
        ...payloadOf(command),
        open: breakers.filter((breaker) => breaker.state !== 'closed').map((breaker) => breaker.id),
        ...consequenceFor(site, on, [], actor),
      },
    })
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
      payload: { ...payloadOf(command), ...consequenceFor(site, boxes, command.breakerIds, actor) },
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

  closeBox(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (box.closure === 'closed') return refuse('alreadyClosed', `${box.name} is already closed.`)
    if (openedSince(box, context)) return lateWord(box)
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
    if (openedSince(box, context)) return lateWord(box)
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

  partNeutral(site, command, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const touch = canTouch(site, box.id, context.actor, context)
    if (!touch.yes) return refuseAnswer(touch)
    if (box.parted.some((part) => part.id === command.partId)) return refuse('partExists', 'This splice is already recorded as parted.')
    const { basis } = command
    if (basis.kind === 'clamp' && basis.amps >= noCurrentBelowAmps)
      return refuse(
        'neutralCarries',
        `The neutral carries ${basis.amps} A: another circuit uses it. Parted, its far end is live.`,
        'Find the partner circuit, record the shared neutral, open and tag its breaker too.',
      )
    if (basis.kind === 'partnersOpen') {
      for (const id of basis.breakerIds) {
        const partner = site.breakers[id]
        if (!partner) return noBreaker()
        const isolation = isIsolatedFor(site, { ...box, breakerIds: [id], unknownFeed: false }, context.actor.personId)
        if (!isolation.yes) return refuse('partnerNotOpen', `${breakerName(partner)} is not open with your tag.`, isolation.toYes)
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

  testParted(site, command, { actor }) {
    const box = Object.values(site.boxes).find((candidate) => candidate.parted.some((part) => part.id === command.partId))
    const part = box?.parted.find((candidate) => candidate.id === command.partId)
    if (!box || !part) return refuse('noSuchPart', 'This splice is not recorded as parted.')
    if (part.tested) return refuse('alreadyTested', 'Both ends are tested already.')
    const stopped = Math.max(command.voltsHere, command.voltsAway) >= deadBelowVolts
    const consequence = stopped ? consequenceFor(site, boxesSharingFeed(site, box), box.breakerIds, actor) : { voids: [], alarms: [] }
    return accept<SiteEvent>({ type: 'partedTested', payload: { ...payloadOf(command), boxId: box.id, stopped, ...consequence } })
  },
}
