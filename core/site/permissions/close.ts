import { boxesReached, permitOn, isBehind, isHeldOpen, mayFeedUnrecorded, reachOf, tagsOn, uncutFeeds } from '../feeds'
import { breakerName, sentence } from '../names'
import { boxName, openersOf, peopleOf, unexplainedSign } from '../proofs'
import type { PowerRequest, BoxState, BreakerRecord, ClosePermit, SiteState } from '../state'
import { no, stopReason, unknownAnswer, type Answer, type Asker } from './answer'

/** Can this breaker put power into that box, as far as anybody knows? */
export const reaches = (site: SiteState, box: BoxState, breakerId: string) =>
  isBehind(site, box, breakerId) || mayFeedUnrecorded(site, box, breakerId)

/** An unanswered permit to close something that can put power into this box. */
export function permitReaching(site: SiteState, box: BoxState): ClosePermit | undefined {
  return Object.values(site.grants).find((permit) => reaches(site, box, permit.breakerId))
}

/** As closing has to take a box: until somebody knows what a voltage that nothing explains was, any breaker may feed what it put in doubt. */
const asFedInDoubt = (site: SiteState, box: BoxState): BoxState => (unexplainedSign(site, box.id) ? { ...box, unknownFeed: true } : box)

/** One thing that stands against closing, and what would take it away. */
interface Obstacle {
  reason: string
  toYes: string
}
/** What closing is looked at for. */
interface Closing {
  site: SiteState
  breaker: BreakerRecord
  label: string
  /** To close it for a moment, with boxes open, once everyone concerned said clear. */
  ask: PowerRequest | null
  /** What this breaker's circuit reaches. */
  reach: ReturnType<typeof reachOf>
}
const saidClear = ({ ask }: Closing, personId: string) => ask !== null && ask.clear.some((person) => person.personId === personId)
/** May this breaker put power into that box, as far as anybody knows? */
const mayReach = ({ site, breaker, reach }: Closing, box: BoxState) =>
  isBehind(site, box, breaker.id) || mayFeedUnrecorded(site, box, breaker.id, reach)

function* tagsAgainst({ site, breaker, label, ask }: Closing): Generator<Obstacle> {
  for (const tag of tagsOn(site, breaker.id)) {
    if (ask && tag.suspendedFor === ask.id) continue
    const what = tag.company ? `The company’s lock (${tag.initials})` : `${tag.name} (${tag.initials})`
    yield {
      reason: tag.suspendedFor
        ? `${what} has a suspended tag on ${label}.`
        : `${what} ${tag.company ? 'holds' : 'has a tag on'} ${label}${tag.lock ? ` with lock ${tag.lock}` : ''}.`,
      toYes: tag.company
        ? 'A licensed person takes the company’s lock off.'
        : ask
          ? `${tag.initials} says clear.`
          : tag.suspendedFor
            ? `${tag.initials} hangs the tag again or takes it off.`
            : `${tag.initials} finishes and takes the tag off.`,
    }
  }
}

function* openBoxesAgainst(closing: Closing): Generator<Obstacle> {
  const { site, breaker, label, ask } = closing
  for (const known of Object.values(site.boxes)) {
    const box = asFedInDoubt(site, known)
    if (box.closure === 'closed' || !isBehind(site, box, breaker.id)) continue
    // A box that stays cut at another open, tagged point is not reached by closing this one.
    if (uncutFeeds(site, box, (point) => point.id !== breaker.id && isHeldOpen(site, point)).length === 0) continue
    const name = boxName(site, box)
    if (box.closure === 'guarded') {
      const guard = box.guardedBy
      if (guard && guard.personId in site.onSite) continue
      yield {
        reason: `${sentence(name)} is capped and guarded, and ${guard?.name ?? 'whoever guards it'} is not on site.`,
        toYes: `Somebody on site looks at ${name} and takes the guard over.`,
      }
      continue
    }
    const waiting = ask ? openersOf(site, box).filter((personId) => !saidClear(closing, personId)) : []
    if (ask && waiting.length === 0) continue
    const sign = isBehind(site, known, breaker.id) ? undefined : unexplainedSign(site, known.id)
    yield {
      reason: sign
        ? `${sentence(name)} is open, and nobody has recorded what the voltage at ${boxName(site, site.boxes[sign.boxId]!)} was: ${label} may feed it.`
        : `${sentence(name)} is open behind it.`,
      toYes: ask
        ? `${waiting.map((id) => site.onSite[id]!.initials).join(' and ')} ${waiting.length === 1 ? 'says' : 'say'} clear.`
        : sign
          ? 'Record what the voltage was.'
          : `Close ${name}, or cap and guard it.`,
    }
  }
}

function* proofsAgainst(closing: Closing): Generator<Obstacle> {
  const { site, breaker, label, ask, reach } = closing
  for (const proof of Object.values(site.proofs)) {
    if (proof.status === 'void') continue
    const box = site.boxes[proof.boxId]!
    const behind = isBehind(site, box, breaker.id)
    // To close it for good: an open box behind it is named already.
    if (ask ? !mayReach(closing, box) : !mayFeedUnrecorded(site, box, breaker.id, reach)) continue
    const waiting = peopleOf(proof).filter((person) => !saidClear(closing, person.personId))
    if (waiting.length === 0) continue
    const name = boxName(site, box)
    yield {
      reason: behind
        ? `${proof.name} relies on a proof in ${name}.`
        : `${proof.name} relies on a proof in ${name}. ${sentence(label)} may feed it too: it was off during the proof.`,
      toYes: ask
        ? `${waiting.map((person) => person.initials).join(' and ')} ${waiting.length === 1 ? 'says' : 'say'} clear.`
        : `${proof.initials} stands clear and ends the proof. A new proof with ${label} closed shows that the two are separate.`,
    }
  }
}

function* alarmsAgainst(closing: Closing): Generator<Obstacle> {
  const { site } = closing
  for (const alarm of Object.values(site.alarms)) {
    if (saidClear(closing, alarm.personId)) continue
    const box = alarm.boxIds.map((id) => site.boxes[id]!).find((one) => mayReach(closing, one))
    if (!box) continue
    yield {
      reason: `${alarm.name} was alarmed at ${boxName(site, box)} and has not answered: their hands may still be in it.`,
      toYes: `${alarm.initials} answers “I have stopped”, on any device.`,
    }
  }
}

function* suspenseAgainst(closing: Closing): Generator<Obstacle> {
  const { site } = closing
  for (const sign of Object.values(site.signs)) {
    if (!sign.suspense || !sign.reached.some((id) => mayReach(closing, site.boxes[id]!))) continue
    yield {
      reason: `${sign.volts} V with high impedance at ${boxName(site, site.boxes[sign.boxId]!)} waits for its low-impedance reading.`,
      toYes: 'Read the same pair again with low impedance, or record what it was.',
    }
  }
}

/** What stands against closing, whether for good or for a moment (`ask`). `given`: a permit that is looked at again. */
function* closingObstacles(
  site: SiteState,
  breaker: BreakerRecord,
  ask: PowerRequest | null,
  submission: ClosePermit | null = null,
): Generator<Obstacle> {
  const label = breakerName(site, breaker)
  const closing: Closing = { site, breaker, label, ask, reach: reachOf(site, breaker.id) }
  if (site.stop) yield { reason: stopReason(site.stop), toYes: `${site.stop.initials} or a lead restarts work.` }
  yield* tagsAgainst(closing)
  yield* openBoxesAgainst(closing)
  yield* proofsAgainst(closing)
  yield* alarmsAgainst(closing)
  yield* suspenseAgainst(closing)
  if (breaker.tripUnexplained)
    yield { reason: `${sentence(label)} tripped and nobody recorded why.`, toYes: 'Find and record the cause of the trip.' }
  const permit = permitOn(site, breaker.id)
  if (permit && permit.id !== submission?.id)
    yield { reason: `${permit.name} already has a permit to close it.`, toYes: `${permit.name} answers: closed, or not closed.` }
}

const wordsOf = (against: Obstacle[]): [reasons: string[], toYes: string[]] => [
  against.map(({ reason }) => reason),
  [...new Set(against.map(({ toYes }) => toYes))],
]

/** Why a permit that was given does not stand any more: something came to light, or somebody opened a box, since. Empty: it stands. */
export const againstPermit = (site: SiteState, permit: ClosePermit): string[] =>
  [
    ...closingObstacles(
      site,
      site.breakers[permit.breakerId]!,
      permit.clearanceId ? (site.asks[permit.clearanceId] ?? null) : null,
      permit,
    ),
  ].map(({ reason }) => reason)

/**
 * May this breaker be closed? Nobody's tag on it, every opened box behind it closed up or guarded, nobody relying on a
 * proof it could spoil, no unexplained trip.
 */
export function canClose(site: SiteState, breakerId: string, asker: Asker): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  if (!asker.licensed)
    return no('licenceNeeded', ['Closing {a breaker} is for a licensed person.'], ['Ask a licensed crew mate to ask for it.'])
  const breaker = site.breakers[breakerId]
  if (!breaker) return no('noSuchBreaker', ['There is no such {breaker} at this site.'], [])
  if (breaker.state === 'closed') return no('alreadyClosed', [`${sentence(breakerName(site, breaker))} is already closed.`], [])
  const against = [...closingObstacles(site, breaker, null)]
  return against.length
    ? no('mayNotClose', ...wordsOf(against))
    : { yes: true, restsOn: ['no tags', 'every box behind it is closed up or guarded'] }
}

/** May this person close the breaker for a moment, with boxes open, on an ask to which everyone concerned said clear? */
export function canEnergise(site: SiteState, askId: string, asker: Asker): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const ask = site.asks[askId]
  if (!ask || ask.kind !== 'energise') return no('noSuchAsk', ['This request is no longer open.'], [])
  const breaker = site.breakers[ask.breakerId]!
  if (ask.personId !== asker.personId) return no('notYours', [`${ask.name} asked for this.`], [])
  if (!asker.licensed)
    return no('licenceNeeded', ['Closing {a breaker} on open boxes needs a licence.'], ['A licensed crew mate must ask.'])
  if (ask.status !== 'asked') return no('alreadyGranted', ['This was granted already.'], [])
  if (breaker.state !== 'open')
    return no('notOpen', [`${sentence(breakerName(site, breaker))} is ${breaker.state}.`], ['Open it and record it open.'])
  const against = [...closingObstacles(site, breaker, ask)]
  return against.length
    ? no('notClear', ...wordsOf(against))
    : { yes: true, restsOn: ask.clear.map((person) => `${person.initials} is clear`) }
}

/** The people who have to say clear to an ask and have not. */
export function notYetClear(site: SiteState, ask: Pick<PowerRequest, 'breakerId' | 'clear'>): { personId: string; initials: string }[] {
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
