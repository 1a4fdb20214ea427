import { whyEnded } from './why-ended'
import type { Actor } from '../stream'
import {
  breakerMark,
  boxesReached,
  grantOn,
  isBehind,
  holds,
  isHeldOpen,
  looseSources,
  mayFeedUnrecorded,
  pathIsCut,
  protects,
  reachOf,
  tagsOn,
  uncutFeeds,
} from './feeds'
import { boxName, openersOf, peopleOf, suspenseOn, unexplainedSign } from './proofs'
import { suspenseMinutes } from './reading'
import type { SignCause } from './parts.schema'
import { signCauseWords, stopWords } from './words'
import type { Ask, BoxState, BreakerRecord, Grant, Proof, SiteState, WorkStop } from './state'

/** Who asks. */
export type Asker = Pick<Actor, 'personId' | 'licensed'>

/** What a decision needs from outside: the server's clock and the branch's time limit for a proof. */
export interface SafetyClock {
  now: string
  proofLimitMinutes: number
  /** On a phone without network: the last state the server acknowledged. Then only the offline rule counts. */
  known?: SiteState
  /** This device asked the server for something that loosens and never heard what came of it. */
  answerLost?: boolean
}

export type Answer = { yes: true; restsOn: string[] } | { yes: false; code: string; reasons: string[]; toYes: string[] }

const no = (code: string, reasons: string[], toYes: string[]): Answer => ({ yes: false, code, reasons, toYes })
const unknownAnswer = (site: SiteState): Answer =>
  no(
    'updateNeeded',
    [`This program does not understand an entry in the site's record (${site.unknownEvent}).`],
    ['Update the app, then ask again.'],
  )

const stopReason = ({ name, what }: WorkStop) => `${name} stopped the work here${what ? `: ${stopWords[what]}` : ''}.`
const stoppedAnswer = ({ stop }: SiteState) =>
  stop ? no('workStopped', [stopReason(stop)], [`Hands off until ${stop.name} or a lead says that work goes on.`]) : null

/** A breaker in words, with its panel wherever a site has more than one. */
export function breakerName(site: SiteState, breaker: BreakerRecord): string {
  const what = breaker.role === 'main' ? 'main' : 'breaker'
  return breaker.number === 'main' ? breakerMark(site, breaker) : `${what} ${breakerMark(site, breaker)}`
}
export const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
const stateWords = { closed: 'closed', open: 'open', tripped: 'tripped, which is not open', unknown: 'in an unknown position' }

const openedByOwnTag = (site: SiteState, personId: string) => (breaker: BreakerRecord) =>
  breaker.state === 'open' && tagsOn(site, breaker.id).some((tag) => protects(tag, personId)) && !grantOn(site, breaker.id)

/** Isolated for one person: every path from every source crosses an open point with that person's own tag. */
export function isIsolatedFor(site: SiteState, box: BoxState, personId: string): Answer {
  const missing = uncutFeeds(site, box, openedByOwnTag(site, personId))
  if (missing.length === 0) return { yes: true, restsOn: ['every feed is open with your own tag'] }
  const reasons: string[] = []
  const toYes: string[] = []
  const name = boxName(site, box)
  const loose = looseSources(site)
  for (const source of loose) {
    reasons.push(`${sentence(source.name)} (${source.kind}) has no switching point on record: no main cuts it.`)
    toYes.push('Record on the panel page where it is switched off, or have a licensed person record why it cannot reach any box.')
  }
  for (const { breaker, unknown } of missing) {
    if (!breaker) {
      if (loose.length === 0) reasons.push(`The feed of ${name} is not known, and no main is on record.`)
      toYes.push('Record the breaker that feeds the box.')
      continue
    }
    const label = breakerName(site, breaker)
    if (unknown) reasons.push(`The feed of ${name} is not known: ${label} must be open with your tag.`)
    const own = tagsOn(site, breaker.id).find((tag) => tag.personId === personId && !tag.company)
    if (breaker.state !== 'open') {
      if (!unknown) reasons.push(`${sentence(label)} is ${stateWords[breaker.state]}.`)
      toYes.push(`Open ${label}, record it and hang your tag.`)
    } else if (own?.defeated) {
      reasons.push(`${sentence(label)} was found closed under your tag.`)
      toYes.push(`Look at your lock on ${label}, say what had happened and that it hangs again.`)
    } else {
      if (!unknown) reasons.push(`Your own tag does not hang on ${label}.`)
      toYes.push(`Hang your tag and lock on ${label}.`)
    }
  }
  return no('notIsolated', reasons, [...new Set(toYes)])
}

export function minutesBetween(from: string, to: string): number {
  return (Date.parse(to) - Date.parse(from)) / 60_000
}

/** Minutes a finished proof still has, negative when its time is over. Infinity while it is being made. */
export function proofMinutesLeft(proof: Proof, clock: SafetyClock): number {
  return proof.finishedAt === null ? Infinity : clock.proofLimitMinutes - minutesBetween(proof.finishedAt, clock.now)
}

/** May this person rely on this proof? An apprentice only when a licensed person made or witnessed it too. */
function reliesOn(proof: Proof, asker: Asker): boolean {
  const took = peopleOf(proof).some((person) => person.personId === asker.personId)
  return took && hasLicensedEyes(proof, asker)
}
/** Was a licensed person there? `asker` is known as they are now, the others as the record has them. */
export function hasLicensedEyes(proof: Proof, asker?: Asker): boolean {
  const eyes = [{ personId: proof.personId, licensed: proof.proverLicensed }, ...proof.witnesses]
  return eyes.some(({ personId, licensed }) => (personId === asker?.personId ? asker.licensed && licensed : licensed))
}

const reaches = (site: SiteState, box: BoxState, breakerId: string) =>
  isBehind(site, box, breakerId) || mayFeedUnrecorded(site, box, breakerId)

/** Unanswered leave to close something that can put power into this box. */
export function grantReaching(site: SiteState, box: BoxState): Grant | undefined {
  return Object.values(site.grants).find((grant) => reaches(site, box, grant.breakerId))
}

/** May this person touch the conductors in this box, now? Parted neutrals count as live until both ends were tested. */
export function canTouch(site: SiteState, boxId: string, asker: Asker, clock: SafetyClock): Answer {
  if (clock.known) return canTouchOffline(clock.known, site, boxId, asker, { ...clock, known: undefined })
  if (site.unknownEvent) return unknownAnswer(site)
  if (clock.answerLost)
    return no(
      'answerLost',
      ['What you asked for or said has no answer yet: it may have been taken, and others may go by it.'],
      ['Get a connection: the answer is on the server.'],
    )
  const stopped = stoppedAnswer(site)
  if (stopped) return stopped
  const box = site.boxes[boxId]
  if (!box) return no('noSuchBox', ['There is no such box at this site.'], [])
  const isolation = isIsolatedFor(site, box, asker.personId)
  if (!isolation.yes) return isolation
  const cleared = Object.values(site.asks).find(
    (ask) => ask.clear.some((person) => person.personId === asker.personId) && reaches(site, box, ask.breakerId),
  )
  if (cleared)
    return no(
      'saidClear',
      [`You said clear: ${cleared.name} may have ${breakerName(site, site.breakers[cleared.breakerId]!)} closed.`],
      ['Wait until it is open again, hang your tag again and prove again.'],
    )
  const grant = grantReaching(site, box)
  if (grant) {
    const breaker = site.breakers[grant.breakerId]!
    return no(
      'grantOutstanding',
      [`${grant.name} may be closing ${breakerName(site, breaker)} right now: it counts as live.`],
      [`Have ${grant.name} answer the request, then open, tag and prove again.`],
    )
  }
  const alarm = openAlarmOf(site, box, asker.personId)
  if (alarm)
    return no(
      'alarmOpen',
      ['You were alarmed here and have not answered.'],
      ['Hands out, say “I have stopped”, then look at the power and prove again.'],
    )
  const proof = box.proofId ? site.proofs[box.proofId] : undefined
  if (!proof || proof.status !== 'living') {
    const why = proof?.status === 'void' ? ` The last proof ended: ${whyEnded(site, proof.voidWhy!)}` : ''
    return no(
      'notProven',
      [`${sentence(boxName(site, box))} is not proven dead.${why}`],
      ['Prove it dead: tester, reference, every conductor, tester.'],
    )
  }
  const sign = suspenseOn(site, proof.id)
  if (sign)
    return no(
      'inSuspense',
      [
        `${sign.name} read ${sign.volts} V by high impedance at ${boxName(site, site.boxes[sign.boxId]!)}: hands out until it is read again by low impedance.`,
      ],
      [`Read the same pair there by low impedance within ${suspenseMinutes} minutes, or record what it was.`],
    )
  if (proofMinutesLeft(proof, clock) <= 0)
    return no('proofExpired', [`The proof is older than ${clock.proofLimitMinutes} minutes.`], ['Prove it dead again.'])
  const parted = box.parted.find((part) => !part.tested)
  if (parted)
    return no(
      'partedUntested',
      [`The neutral “${parted.what}” was parted and its two ends are not tested.`],
      ['Test both ends with low impedance.'],
    )
  if (!reliesOn(proof, asker)) {
    if (proof.personId === asker.personId)
      return no(
        'needsWitness',
        ['A licensed person has to witness this proof.'],
        ['Ask a licensed crew mate on this visit to witness it, here at the box.'],
      )
    return no('notWitnessed', [`The proof is ${proof.name}'s.`], ['Witness it at the box, or make your own.'])
  }
  return { yes: true, restsOn: [...isolation.restsOn, `proof by ${proof.initials}`] }
}

/** An alarm of this person that has to do with this box and is not answered. */
export const openAlarmOf = (site: SiteState, box: BoxState, personId: string) =>
  Object.values(site.alarms).find((alarm) => alarm.personId === personId && alarm.boxIds.includes(box.id))

/** May a tag be hung here? Only on an open point, never while a request to close is unanswered. */
export function canTag(site: SiteState, breakerId: string, asker: Asker): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const breaker = site.breakers[breakerId]
  if (!breaker) return no('noSuchBreaker', ['There is no such breaker at this site.'], [])
  const grant = grantOn(site, breakerId)
  if (grant)
    return no(
      'grantOutstanding',
      [`${grant.name} was allowed to close ${breakerName(site, breaker)} and has not answered.`],
      ['Have the request answered first.'],
    )
  if (breaker.state !== 'open')
    return no(
      'notOpen',
      [
        `${sentence(breakerName(site, breaker))} is ${breaker.state === 'unknown' ? 'in an unknown position' : breaker.state}. A tag hangs only on an open breaker.`,
      ],
      ['Open it and record it open.'],
    )
  if (tagsOn(site, breakerId).some((tag) => tag.personId === asker.personId && !tag.company))
    return no('alreadyTagged', [`Your tag already hangs on ${breakerName(site, breaker)}.`], [])
  return { yes: true, restsOn: [`${breakerName(site, breaker)} is recorded open`] }
}

/** As closing has to take a box: until somebody knows what a voltage that nothing explains was, any breaker may feed what it put in doubt. */
const asFedInDoubt = (site: SiteState, box: BoxState): BoxState => (unexplainedSign(site, box.id) ? { ...box, unknownFeed: true } : box)

/** What stands against closing, whether for good or for a moment. `cleared` are the people who said clear to an ask. */
function closingObstacles(
  site: SiteState,
  breaker: BreakerRecord,
  ask: Ask | null,
  given: Grant | null = null,
): { reasons: string[]; toYes: string[] } {
  const label = breakerName(site, breaker)
  const reasons: string[] = []
  const toYes: string[] = []
  if (site.stop) {
    reasons.push(stopReason(site.stop))
    toYes.push(`${site.stop.initials} or a lead says that work goes on.`)
  }
  const isClear = (personId: string) => ask !== null && ask.clear.some((person) => person.personId === personId)
  for (const tag of tagsOn(site, breaker.id)) {
    if (ask && tag.suspendedFor === ask.id) continue
    const what = tag.company ? `The company’s lock (${tag.initials})` : `${tag.name} (${tag.initials})`
    reasons.push(
      tag.suspendedFor
        ? `${what} has a suspended tag on ${label}.`
        : `${what} ${tag.company ? 'holds' : 'has a tag on'} ${label}${tag.lock ? ` with lock ${tag.lock}` : ''}.`,
    )
    toYes.push(
      tag.company
        ? 'Somebody licensed takes the company’s lock off.'
        : ask
          ? `${tag.initials} says clear.`
          : tag.suspendedFor
            ? `${tag.initials} hangs the tag again or takes it off.`
            : `${tag.initials} finishes and takes the tag off.`,
    )
  }
  for (const known of Object.values(site.boxes)) {
    const box = asFedInDoubt(site, known)
    if (box.closure === 'closed' || !isBehind(site, box, breaker.id)) continue
    // A box that stays cut at another open, tagged point is not reached by closing this one.
    if (uncutFeeds(site, box, (point) => point.id !== breaker.id && isHeldOpen(site, point)).length === 0) continue
    const name = boxName(site, box)
    if (box.closure === 'guarded') {
      const guard = box.guardedBy
      if (guard && guard.personId in site.onSite) continue
      reasons.push(`${sentence(name)} is capped and guarded, and ${guard?.name ?? 'whoever guards it'} is not on site.`)
      toYes.push(`Somebody on site looks at ${name} and takes the guard over.`)
      continue
    }
    const waiting = ask ? openersOf(site, box).filter((personId) => !isClear(personId)) : []
    if (ask && waiting.length === 0) continue
    const sign = isBehind(site, known, breaker.id) ? undefined : unexplainedSign(site, known.id)
    reasons.push(
      sign
        ? `${sentence(name)} is open, and nobody has recorded what the voltage at ${boxName(site, site.boxes[sign.boxId]!)} was: ${label} may feed it.`
        : `${sentence(name)} is open behind it.`,
    )
    toYes.push(
      ask
        ? `${waiting.map((id) => site.onSite[id]!.initials).join(' and ')} ${waiting.length === 1 ? 'says' : 'say'} clear.`
        : sign
          ? 'Record what the voltage was.'
          : `Close ${name}, or cap and guard it.`,
    )
  }
  const reach = reachOf(site, breaker.id)
  for (const proof of Object.values(site.proofs)) {
    if (proof.status === 'void') continue
    const box = site.boxes[proof.boxId]!
    const behind = isBehind(site, box, breaker.id)
    if (ask ? !behind && !mayFeedUnrecorded(site, box, breaker.id, reach) : !mayFeedUnrecorded(site, box, breaker.id, reach)) continue
    const waiting = peopleOf(proof).filter((person) => !isClear(person.personId))
    if (waiting.length === 0) continue
    const name = boxName(site, box)
    reasons.push(
      behind
        ? `${proof.name} relies on a proof in ${name}.`
        : `${proof.name} relies on a proof in ${name}, and nobody knows whether ${label} feeds it too: it was off while the box was proven.`,
    )
    toYes.push(
      ask
        ? `${waiting.map((person) => person.initials).join(' and ')} ${waiting.length === 1 ? 'says' : 'say'} clear.`
        : `${proof.initials} steps back and ends the proof; proven again with ${label} closed, the two are known to be apart.`,
    )
  }
  for (const alarm of Object.values(site.alarms)) {
    if (isClear(alarm.personId)) continue
    const box = alarm.boxIds
      .map((id) => site.boxes[id]!)
      .find((one) => isBehind(site, one, breaker.id) || mayFeedUnrecorded(site, one, breaker.id, reach))
    if (!box) continue
    reasons.push(`${alarm.name} was alarmed at ${boxName(site, box)} and has not answered: their hands may still be in it.`)
    toYes.push(`${alarm.initials} says “I have stopped”, on any device.`)
  }
  for (const sign of Object.values(site.signs)) {
    if (!sign.suspense) continue
    const box = sign.reached
      .map((id) => site.boxes[id]!)
      .find((one) => isBehind(site, one, breaker.id) || mayFeedUnrecorded(site, one, breaker.id, reach))
    if (!box) continue
    reasons.push(`${sign.volts} V by high impedance at ${boxName(site, site.boxes[sign.boxId]!)} waits for its low-impedance reading.`)
    toYes.push('Read the same pair again by low impedance, or record what it was.')
  }
  if (breaker.tripUnexplained) {
    reasons.push(`${sentence(label)} tripped and nobody recorded why.`)
    toYes.push('Find and record the cause of the trip.')
  }
  const grant = grantOn(site, breaker.id)
  if (grant && grant.id !== given?.id) {
    reasons.push(`${grant.name} already has leave to close it.`)
    toYes.push(`${grant.name} answers closed or given up.`)
  }
  return { reasons, toYes }
}

/** Why leave that was given does not stand any more: something came to light, or somebody opened a box, since. Empty: it stands. */
export const againstLeave = (site: SiteState, grant: Grant): string[] =>
  closingObstacles(site, site.breakers[grant.breakerId]!, grant.clearanceId ? (site.asks[grant.clearanceId] ?? null) : null, grant).reasons

/**
 * May this breaker be closed? Nobody's tag on it, every opened box behind it closed up or guarded, nobody relying on a
 * proof it could spoil, no unexplained trip.
 */
export function canClose(site: SiteState, breakerId: string, asker: Asker): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  if (!asker.licensed)
    return no('licenceNeeded', ['Closing a breaker is for a licensed person.'], ['Ask a licensed crew mate to ask for it.'])
  const breaker = site.breakers[breakerId]
  if (!breaker) return no('noSuchBreaker', ['There is no such breaker at this site.'], [])
  if (breaker.state === 'closed') return no('alreadyClosed', [`${sentence(breakerName(site, breaker))} is already closed.`], [])
  const { reasons, toYes } = closingObstacles(site, breaker, null)
  return reasons.length
    ? no('mayNotClose', reasons, toYes)
    : { yes: true, restsOn: ['no tags', 'every box behind it is closed up or guarded'] }
}

/** May this person close the breaker for a moment, with boxes open, on an ask to which everyone concerned said clear? */
export function canEnergise(site: SiteState, askId: string, asker: Asker): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const ask = site.asks[askId]
  if (!ask || ask.kind !== 'energise') return no('noSuchAsk', ['This request is no longer open.'], [])
  const breaker = site.breakers[ask.breakerId]!
  if (ask.personId !== asker.personId) return no('notYours', [`${ask.name} asked for this.`], [])
  if (!asker.licensed) return no('licenceNeeded', ['Closing a breaker on open boxes needs a licence.'], ['A licensed crew mate asks.'])
  if (ask.status !== 'asked') return no('alreadyGranted', ['This was granted already.'], [])
  if (breaker.state !== 'open')
    return no('notOpen', [`${sentence(breakerName(site, breaker))} is ${breaker.state}.`], ['Open it and record it open.'])
  const { reasons, toYes } = closingObstacles(site, breaker, ask)
  return reasons.length
    ? no('notClear', reasons, [...new Set(toYes)])
    : { yes: true, restsOn: ask.clear.map((person) => `${person.initials} is clear`) }
}

/** The people who have to say clear to an ask and have not. */
export function notYetClear(site: SiteState, ask: Pick<Ask, 'breakerId' | 'clear'>): { personId: string; initials: string }[] {
  const people = new Map<string, string>()
  for (const tag of tagsOn(site, ask.breakerId)) if (!tag.company) people.set(tag.personId, tag.initials)
  for (const box of Object.values(site.boxes))
    if (isBehind(site, asFedInDoubt(site, box), ask.breakerId))
      for (const personId of openersOf(site, box)) people.set(personId, site.onSite[personId]!.initials)
  for (const box of boxesReached(site, ask.breakerId)) {
    for (const proof of Object.values(site.proofs)) {
      if (proof.boxId !== box.id || proof.status === 'void') continue
      for (const person of peopleOf(proof)) people.set(person.personId, person.initials)
    }
  }
  return [...people]
    .filter(([personId]) => !ask.clear.some((person) => person.personId === personId))
    .map(([personId, initials]) => ({ personId, initials }))
}

/** Live probing is announced for this long, minutes. Common practice, no source. */
export const measuringMinutes = 30

/**
 * May this person probe live in this box, now? A licensed person who has announced it to a mate (or works alone by the
 * solo steps), while nobody else may have hands in it. Never needs a proof; never allows touching.
 */
export function canMeasure(site: SiteState, boxId: string, asker: Asker, clock: SafetyClock): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const box = site.boxes[boxId]
  if (!box) return no('noSuchBox', ['There is no such box at this site.'], [])
  const stopped = stoppedAnswer(site)
  if (stopped) return stopped
  if (!asker.licensed) return no('licenceNeeded', ['Measuring on live parts is for a licensed person.'], ['Ask a licensed crew mate.'])
  const announced = Object.values(site.measuring).find((entry) => entry.boxId === boxId && entry.personId === asker.personId)
  if (!announced) return no('notAnnounced', ['Nobody knows yet that you measure live here.'], ['Warn a crew mate, then measure.'])
  if (minutesBetween(announced.startedAt, clock.now) > measuringMinutes)
    return no('announcedTooLongAgo', [`You warned your mates more than ${measuringMinutes} minutes ago.`], ['Warn them again.'])
  const alone = soloOf(site, asker.personId, clock)
  if (announced.warnedIds.length === 0 && !alone.working)
    return no('nobodyWarned', ['Nobody was warned.'], ['Warn a crew mate, or start working alone with a contact.'])
  if (alone.overdue) return no('checkInDue', ['Your check-in is overdue.'], ['Check in with your contact first.'])
  const mate = Object.values(site.proofs).find(
    (proof) => proof.boxId === boxId && proof.status !== 'void' && peopleOf(proof).some((person) => person.personId !== asker.personId),
  )
  const alarmed = Object.values(site.alarms).find((entry) => entry.boxIds.includes(boxId) && entry.personId !== asker.personId)
  if (alarmed)
    return no(
      'mateInBox',
      [`${alarmed.name} was alarmed at ${boxName(site, box)} and has not answered: their hands may still be in it.`],
      [`${alarmed.initials} says that they have stopped.`],
    )
  if (mate)
    return no(
      'mateInBox',
      [`${mate.name} relies on a proof in ${boxName(site, box)}.`],
      [`${mate.initials} steps back and ends the proof.`],
    )
  return {
    yes: true,
    restsOn: [announced.warnedIds.length ? 'mates warned' : 'working alone, contact told', 'nobody else relies on this box'],
  }
}

/** Whether this person works alone, and whether their check-in is overdue. */
export function soloOf(site: SiteState, personId: string, clock: Pick<SafetyClock, 'now'>): { working: boolean; overdue: boolean } {
  const solo = site.solo[personId]
  return { working: solo !== undefined, overdue: solo !== undefined && Date.parse(clock.now) > Date.parse(solo.dueAt) }
}

/** May the crew go home with this box as it is? Closed, guarded, or every feed held open by the company's lock. */
export function isLeftSafe(site: SiteState, box: BoxState): boolean {
  if (box.closure === 'closed' || box.closure === 'guarded') return true
  const lockedForTheNight = (point: BreakerRecord) =>
    point.state === 'open' && !grantOn(site, point.id) && tagsOn(site, point.id).some((tag) => tag.company && holds(tag))
  return uncutFeeds(site, box, lockedForTheNight).length === 0
}

/** Newest seq at which power may have reached this box: what was seen before it says nothing about now. */
export function energySeqOf(site: SiteState, box: BoxState): number {
  return Math.max(
    box.liveSeq,
    ...Object.values(site.breakers)
      .filter((breaker) => isBehind(site, box, breaker.id) || !(breaker.id in box.ruledOut))
      .map((breaker) => breaker.energisedSeq),
  )
}

/**
 * May this person touch, on a phone without network? `known` is the last state the server acknowledged, `here` the
 * same with this phone's own unsent entries on top. Own acknowledged tags on every path, and an own complete proof
 * that both states allow. Labels lie, and without network nobody can say what else is switched: so either the crew
 * knows of the work (the proof was started before the connection went, which keeps everything else that is off, off),
 * or nothing is left that could feed the box unknown. What the server says on return can only be stricter.
 */
export function canTouchOffline(known: SiteState, here: SiteState, boxId: string, asker: Asker, clock: SafetyClock): Answer {
  const box = known.boxes[boxId]
  if (!box) return no('noSuchBox', ['There is no such box at this site.'], [])
  // A tag that was taken off here protects no more, and the one hung in its place counts when the server has it.
  const tags = Object.fromEntries(Object.entries(known.tags).filter(([id]) => here.tags[id] && holds(here.tags[id])))
  const isolation = isIsolatedFor({ ...known, tags }, box, asker.personId)
  if (!isolation.yes) return isolation
  const touch = canTouch(here, boxId, asker, clock)
  if (!touch.yes) return touch
  const proof = here.proofs[here.boxes[boxId]?.proofId ?? '']
  if (!proof || proof.personId !== asker.personId)
    return no('offlineOwnProof', ['Without network only your own proof counts.'], ['Prove it dead yourself, or get a connection.'])
  // The same proof: one that was closed up or given up since, even only here, the crew may know as over.
  const crewKnows = proof.id in known.proofs && known.proofs[proof.id]!.status !== 'void'
  const unknown = Object.values(known.breakers).filter((breaker) => mayFeedUnrecorded(known, box, breaker.id))
  if (!crewKnows && unknown.length > 0)
    return no(
      'offlineUnannounced',
      [
        `The crew does not know that you work in ${boxName(known, box)}: they may close ${breakerName(known, unknown[0]!)}, and nobody has shown that it does not feed this box.`,
      ],
      ['Start the proof where there is a connection (tester on a live source), then go on with it here.'],
    )
  return { yes: true, restsOn: [...isolation.restsOn, 'your own proof', 'the last state this phone knows'] }
}

/** Is the circuit behind this breaker carrying power, as far as the record knows? */
export function isEnergised(site: SiteState, breaker: BreakerRecord): boolean {
  if (grantOn(site, breaker.id)) return true
  return !pathIsCut(site, breaker, (point) => point.state === 'open' || point.state === 'tripped')
}

/** The cause of a voltage in words, with its breaker or note. */
export function causeWordsOf(site: SiteState, cause: SignCause): string {
  const breaker = 'breakerId' in cause ? site.breakers[cause.breakerId] : undefined
  const detail = breaker ? `: ${breakerName(site, breaker)}` : 'note' in cause ? ` (${cause.note})` : ''
  return `${signCauseWords[cause.kind]}${detail}`
}
