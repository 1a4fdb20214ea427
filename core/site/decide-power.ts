import { accept, payloadOf, refuse } from '../stream'
import { boxesBehind, boxesReached, grantOn, tagsOn } from './feeds'
import { breakerName, canClose, canEnergise, canTag, notYetClear, sentence, soloOf } from './permissions'
import { proofsIn } from './proof'
import { consequenceFor, endOf, noAsk, noBreaker, nothingEnds, ownProofsIn, refuseAnswer, type Handlers } from './decide-context'
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
  | 'requestClose'
  | 'answerGrant'
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
      command.state === 'open' && !again ? nothingEnds : consequenceFor(site, boxesReached(site, breaker.id), [breaker.id], actor)
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

  hangTag(site, command, { actor, basedOnSeq }) {
    const point = site.breakers[command.breakerId]
    if (point && basedOnSeq < point.energisedSeq)
      return refuse(
        'lateTag',
        `You hung this before ${breakerName(site, point)} was found ${point.state === 'open' ? 'closed' : point.state}: the record knows more than you did then.`,
        'Look at the lever and at your lock, then hang the tag again.',
      )
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
    const lock = command.lock.toLowerCase()
    const elsewhere = lock ? Object.values(site.tags).find((tag) => tag.lock.toLowerCase() === lock) : undefined
    if (elsewhere)
      return refuse(
        'lockElsewhere',
        `Lock ${command.lock} hangs on ${breakerName(site, site.breakers[elsewhere.breakerId]!)} already (${elsewhere.initials}).`,
        'One lock hangs in one place: name the lock that hangs here.',
      )
    return accept<SiteEvent>({ type: 'tagHung', payload: payloadOf(command) })
  },

  removeTag(site, command, { actor, onCrew }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (tag.company) {
      if (!onCrew || !actor.licensed)
        return refuse('licenceNeeded', 'The company’s lock comes off by a licensed person of the crew.', 'Ask one, or the lead.')
      return accept<SiteEvent>({ type: 'tagRemoved', payload: { ...payloadOf(command), breakerId: tag.breakerId, ...nothingEnds } })
    }
    if (tag.personId !== actor.personId)
      return refuse(
        'notYourTag',
        `This is the tag of ${tag.name}. Only ${tag.initials} takes it off.`,
        `Ask ${tag.initials}: it can be done on any device of the crew with their PIN. If they have left the building, a lead ends what they left, on record.`,
      )
    const ends = endOf(site, ownProofsIn(site, boxesBehind(site, tag.breakerId), actor.personId), actor)
    return accept<SiteEvent>({ type: 'tagRemoved', payload: { ...payloadOf(command), breakerId: tag.breakerId, ...ends } })
  },

  rehangTag(site, command, { actor }) {
    const tag = site.tags[command.tagId]
    if (!tag) return refuse('noSuchTag', 'This tag is not hanging.')
    if (tag.personId !== actor.personId) return refuse('notYourTag', `This is the tag of ${tag.name}.`)
    if (tag.suspendedFor === null && !tag.defeated) return refuse('notSuspended', 'This tag hangs already.')
    if (tag.defeated && command.cause.length < 3)
      return refuse(
        'causeMissing',
        `${sentence(breakerName(site, site.breakers[tag.breakerId]!))} was found closed under your tag.`,
        'Say what had happened to your lock, then that it hangs again.',
      )
    const breaker = site.breakers[tag.breakerId]!
    if (grantOn(site, breaker.id))
      return refuse(
        'grantOutstanding',
        `Leave to close ${breakerName(site, breaker)} is out.`,
        'Have it answered and the breaker opened first.',
      )
    if (breaker.state !== 'open')
      return refuse('notOpen', `${sentence(breakerName(site, breaker))} is ${breaker.state}.`, 'Open it and record it open.')
    const ends = endOf(site, ownProofsIn(site, boxesBehind(site, tag.breakerId), actor.personId), actor)
    return accept<SiteEvent>({ type: 'tagRehung', payload: { ...payloadOf(command), breakerId: tag.breakerId, ...ends } })
  },

  requestClose(site, command, { actor, now }) {
    const answer = command.clearanceId ? canEnergise(site, command.clearanceId, actor) : canClose(site, command.breakerId, actor)
    if (!answer.yes) return refuseAnswer(answer)
    if (command.clearanceId && site.asks[command.clearanceId]!.breakerId !== command.breakerId)
      return refuse('otherBreaker', 'Everyone said clear to another breaker.')
    if (site.grants[command.grantId]) return refuse('grantExists', 'This request is already known.')
    if (soloOf(site, actor.personId, { now }).overdue)
      return refuse('checkInDue', 'Your check-in is overdue.', 'Check in with your contact, then close.')
    const expiresAt = new Date(Date.parse(now) + grantMinutes * 60_000).toISOString()
    const { voids, alarms } = endOf(site, proofsIn(site, boxesReached(site, command.breakerId)), actor)
    // Whoever said clear knows of it and has stepped back.
    const clear = site.asks[command.clearanceId ?? '']?.clear ?? []
    return accept<SiteEvent>({
      type: 'closeGranted',
      payload: { ...payloadOf(command), expiresAt, voids, alarms: alarms.filter((id) => !clear.some((person) => person.personId === id)) },
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
        `${grant.name} answers on any device of the crew with their PIN. If they have left the building, a lead ends what they left, on record.`,
      )
    return accept<SiteEvent>({ type: 'grantAnswered', payload: { ...payloadOf(command), breakerId: grant.breakerId } })
  },

  askOpen(site, command) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    if (site.asks[command.askId]) return refuse('askExists', 'This request is already known.')
    if (breaker.state === 'open')
      return refuse('alreadyOpen', `${sentence(breakerName(site, breaker))} is already open.`, 'Hang your tag on it.')
    if (breaker.offLimits)
      return refuse(
        'offLimits',
        `${sentence(breakerName(site, breaker))}: do not open. ${breaker.offLimits}`,
        'The lead or the dispatcher can lift that.',
      )
    if (Object.values(site.asks).some((ask) => ask.kind === 'open' && ask.breakerId === breaker.id))
      return refuse('alreadyAsked', `Somebody already asked to have ${breakerName(site, breaker)} opened.`)
    return accept<SiteEvent>({ type: 'openAsked', payload: payloadOf(command) })
  },

  askEnergise(site, command, { actor, now }) {
    const breaker = site.breakers[command.breakerId]
    if (!breaker) return noBreaker()
    if (site.asks[command.askId]) return refuse('askExists', 'This request is already known.')
    if (!actor.licensed)
      return refuse('licenceNeeded', 'Closing a breaker on open boxes needs a licence.', 'A licensed crew mate asks for it.')
    if (breaker.state !== 'open')
      return refuse(
        'notOpen',
        `${sentence(breakerName(site, breaker))} is ${breaker.state}.`,
        'Only an open breaker is closed for a moment.',
      )
    const known = Object.values(site.asks).find((ask) => ask.kind === 'energise' && ask.breakerId === breaker.id)
    if (known)
      return refuse(
        'alreadyAsked',
        `${known.name} already asked for power on ${breakerName(site, breaker)}.`,
        'Use theirs, or let them withdraw it.',
      )
    if (breaker.tripUnexplained)
      return refuse(
        'tripUnexplained',
        `${sentence(breakerName(site, breaker))} tripped and nobody recorded why.`,
        'Find and record the cause of the trip.',
      )
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
