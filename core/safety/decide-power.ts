import { accept, payloadOf, refuse } from '../stream'
import { boxesBehind, boxesReached, grantOn, tagsOn } from './feeds'
import { breakerName, canClose, canEnergise, canTag, notYetClear, soloOf } from './permissions'
import { consequenceFor, noAsk, noBreaker, ownProofsIn, refuseAnswer, type Handlers } from './decide-context'
import type { SiteEvent } from './schema'

/** Leave to close is used within this time or asked for again, minutes. Common practice, no source. */
export const grantMinutes = 5

/** Breakers, tags, leave to close, and power for a moment. */
export const powerHandlers: Handlers<
  | 'observeBreaker'
  | 'recordTripCause'
  | 'markOffLimits'
  | 'hangTag'
  | 'removeTag'
  | 'rehangTag'
  | 'overrideTag'
  | 'requestClose'
  | 'answerGrant'
  | 'overrideGrant'
  | 'askOpen'
  | 'askEnergise'
  | 'withdrawAsk'
  | 'confirmClear'
  | 'takeBackClear'
> = {
  observeBreaker(site, command, { actor, basedOnSeq }) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    const grantHeld = grantOn(site, breaker.id) !== undefined
    // A fact is always taken. One that would make things safer counts only if its maker knew of the last
    // sign of power, and while nobody holds leave to close this breaker.
    const late = command.state === 'open' && (basedOnSeq < breaker.energisedSeq || grantHeld)
    // Whoever opens a lever that the record has open found it closed: somebody had closed it meanwhile.
    const again = command.state === 'open' && command.how === 'did' && breaker.state === 'open'
    const consequence =
      command.state === 'open' && !again
        ? { voids: [], alarms: [] }
        : consequenceFor(site, boxesReached(site, breaker.id), [breaker.id], actor)
    return accept<SiteEvent>({
      type: 'breakerObserved',
      payload: { ...payloadOf(command), late, again, knewSeq: basedOnSeq, ...consequence },
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
    if (!answer.yes && !(command.company && answer.code === 'alreadyTagged')) return refuseAnswer(answer)
    if (!command.lock && (!command.measure || command.company))
      return refuse(
        'noLock',
        command.company
          ? 'The company’s lock is a lock: say which one hangs there.'
          : 'A tag stands for a lock, or for a written extra measure.',
        'Name the lock, or write what else keeps the breaker open.',
      )
    if (command.company && !command.notice)
      return refuse('noNotice', 'A lock for the night needs a notice at the breaker.', 'Write on the notice who to call and why it is off.')
    if (command.company && tagsOn(site, command.breakerId).some((tag) => tag.company))
      return refuse('alreadyTagged', 'The company’s lock already hangs here.')
    if (site.tags[command.tagId]) return refuse('tagExists', 'This tag already hangs.')
    return accept<SiteEvent>({ type: 'tagHung', payload: payloadOf(command) })
  },

  removeTag(site, command, { actor, onCrew }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (tag.company) {
      if (!onCrew || !actor.licensed)
        return refuse('licenceNeeded', 'The company’s lock comes off by a licensed person of the crew.', 'Ask one, or the lead.')
      return accept<SiteEvent>({ type: 'tagRemoved', payload: { ...payloadOf(command), breakerId: tag.breakerId, voids: [] } })
    }
    if (tag.personId !== actor.personId)
      return refuse(
        'notYourTag',
        `This is the tag of ${tag.name}. Only ${tag.initials} takes it off.`,
        `Ask ${tag.initials}: it can be done on any device of the crew with their PIN. If they have left the building, a lead can take it off on record.`,
      )
    const voids = ownProofsIn(site, boxesBehind(site, tag.breakerId), actor.personId)
    return accept<SiteEvent>({ type: 'tagRemoved', payload: { ...payloadOf(command), breakerId: tag.breakerId, voids } })
  },

  rehangTag(site, command, { actor }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (tag.personId !== actor.personId) return refuse('notYourTag', `This is the tag of ${tag.name}.`)
    if (tag.suspendedFor === null) return refuse('notSuspended', 'This tag hangs already.')
    const breaker = site.breakers[tag.breakerId]!
    if (grantOn(site, breaker.id))
      return refuse('grantOutstanding', `Leave to close ${breakerName(breaker)} is out.`, 'Have it answered and the breaker opened first.')
    if (breaker.state !== 'open') return refuse('notOpen', `${breakerName(breaker)} is ${breaker.state}.`, 'Open it and record it open.')
    const voids = ownProofsIn(site, boxesBehind(site, tag.breakerId), actor.personId)
    return accept<SiteEvent>({ type: 'tagRehung', payload: { ...payloadOf(command), breakerId: tag.breakerId, voids } })
  },

  overrideTag(site, command, { actor }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (actor.role !== 'lead') return refuse('leadOnly', 'Only a lead may take off the tag of somebody who is absent.', 'Call the lead.')
    if (tag.personId === actor.personId) return refuse('ownTag', 'This is your own tag: take it off yourself.')
    const voids = ownProofsIn(site, boxesBehind(site, tag.breakerId), tag.personId)
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

  requestClose(site, command, { actor, now }) {
    const answer = command.clearanceId ? canEnergise(site, command.clearanceId, actor) : canClose(site, command.breakerId)
    if (!answer.yes) return refuseAnswer(answer)
    if (command.clearanceId && site.asks[command.clearanceId]!.breakerId !== command.breakerId)
      return refuse('otherBreaker', 'Everyone said clear to another breaker.')
    if (site.grants[command.grantId]) return refuse('grantExists', 'This request is already known.')
    if (soloOf(site, actor.personId, { now }).overdue)
      return refuse('checkInDue', 'Your check-in is overdue.', 'Check in with your contact, then close.')
    const expiresAt = new Date(Date.parse(now) + grantMinutes * 60_000).toISOString()
    return accept<SiteEvent>({
      type: 'closeGranted',
      payload: {
        ...payloadOf(command),
        expiresAt,
        ...consequenceFor(site, boxesReached(site, command.breakerId), [command.breakerId], actor),
      },
    })
  },

  answerGrant(site, command, { actor }) {
    const grant = site.grants[command.grantId]
    if (!grant) return refuse('noSuchGrant', 'This request is no longer open.')
    // That it is closed anybody may say; that it will stay open only the hand that was allowed to close it.
    if (grant.personId !== actor.personId && command.answer === 'givenUp')
      return refuse(
        'notYours',
        `${grant.name} asked and has to answer.`,
        `${grant.name} answers on any device of the crew with their PIN. If they have left the building, a lead can end it on record.`,
      )
    return accept<SiteEvent>({ type: 'grantAnswered', payload: { ...payloadOf(command), breakerId: grant.breakerId } })
  },

  overrideGrant(site, command, { actor }) {
    const grant = site.grants[command.grantId]
    if (!grant) return refuse('noSuchGrant', 'This request is no longer open.')
    if (actor.role !== 'lead') return refuse('leadOnly', 'Only a lead ends the leave of somebody who is absent.', 'Call the lead.')
    if (grant.personId === actor.personId) return refuse('ownGrant', 'This is your own: answer it.')
    return accept<SiteEvent>({
      type: 'grantOverridden',
      payload: {
        ...payloadOf(command),
        breakerId: grant.breakerId,
        ownerName: grant.name,
        ...consequenceFor(site, boxesReached(site, grant.breakerId), [grant.breakerId], actor),
      },
    })
  },

  askOpen(site, command) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    if (site.asks[command.askId]) return refuse('askExists', 'This request is already known.')
    if (breaker.state === 'open') return refuse('alreadyOpen', `${breakerName(breaker)} is already open.`, 'Hang your tag on it.')
    if (breaker.offLimits)
      return refuse('offLimits', `${breakerName(breaker)}: do not open. ${breaker.offLimits}`, 'The lead or the dispatcher can lift that.')
    if (Object.values(site.asks).some((ask) => ask.kind === 'open' && ask.breakerId === breaker.id))
      return refuse('alreadyAsked', `Somebody already asked to have ${breakerName(breaker)} opened.`)
    return accept<SiteEvent>({ type: 'openAsked', payload: payloadOf(command) })
  },

  askEnergise(site, command, { actor, now }) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    if (site.asks[command.askId]) return refuse('askExists', 'This request is already known.')
    if (!actor.licensed)
      return refuse('licenceNeeded', 'Closing a breaker on open boxes needs a licence.', 'A licensed crew mate asks for it.')
    if (breaker.state !== 'open')
      return refuse('notOpen', `${breakerName(breaker)} is ${breaker.state}.`, 'Only an open breaker is closed for a moment.')
    const known = Object.values(site.asks).find((ask) => ask.kind === 'energise' && ask.breakerId === breaker.id)
    if (known)
      return refuse(
        'alreadyAsked',
        `${known.name} already asked for power on ${breakerName(breaker)}.`,
        'Use theirs, or let them withdraw it.',
      )
    if (breaker.tripUnexplained)
      return refuse('tripUnexplained', `${breakerName(breaker)} tripped and nobody recorded why.`, 'Find and record the cause of the trip.')
    if (soloOf(site, actor.personId, { now }).overdue)
      return refuse('checkInDue', 'Your check-in is overdue.', 'Check in with your contact first.')
    const asks = notYetClear(site, { breakerId: breaker.id, clear: [] }).map((person) => person.personId)
    return accept<SiteEvent>({
      type: 'energiseAsked',
      payload: { ...payloadOf(command), asks: asks.filter((id) => id !== actor.personId) },
    })
  },

  withdrawAsk(site, command, { actor }) {
    const ask = site.asks[command.askId]
    if (!ask) return noAsk()
    if (ask.personId !== actor.personId && actor.role !== 'lead') return refuse('notYours', `${ask.name} asked for this.`)
    if (ask.status !== 'asked')
      return refuse('alreadyGranted', 'Leave to close is already out.', 'Answer it; open the breaker again to end this.')
    return accept<SiteEvent>({ type: 'askWithdrawn', payload: payloadOf(command) })
  },

  confirmClear(site, command, { actor, basedOnSeq }) {
    const ask = site.asks[command.askId]
    if (!ask || ask.kind !== 'energise') return noAsk()
    if (ask.status !== 'asked') return refuse('alreadyGranted', 'Leave to close is already out.')
    if (basedOnSeq < ask.askedSeq) return refuse('lateWord', 'You said this before it was asked.', 'Read the request, then say clear.')
    if (ask.clear.some((person) => person.personId === actor.personId)) return refuse('alreadyClear', 'You have already said clear.')
    const tagIds = tagsOn(site, ask.breakerId)
      .filter((tag) => tag.personId === actor.personId && !tag.company)
      .map((tag) => tag.id)
    return accept<SiteEvent>({ type: 'clearConfirmed', payload: { ...payloadOf(command), breakerId: ask.breakerId, tagIds } })
  },

  takeBackClear(site, command, { actor }) {
    const ask = site.asks[command.askId]
    if (!ask) return noAsk()
    if (ask.status !== 'asked')
      return refuse('alreadyGranted', 'Leave to close is already out: it counts as live.', 'Stay clear until it is found open again.')
    if (!ask.clear.some((person) => person.personId === actor.personId)) return refuse('notClear', 'You have not said clear.')
    return accept<SiteEvent>({ type: 'clearTakenBack', payload: payloadOf(command) })
  },
}
