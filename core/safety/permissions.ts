import type { Actor } from '../stream'
import { boxesBehind, grantOn, isBehind, pathIsCut, tagsOn, uncutFeeds } from './feeds'
import type { BoxState, BreakerRecord, Proof, SiteState } from './state'

/** Who asks. */
export type Asker = Pick<Actor, 'personId' | 'licensed'>

/** What a decision needs from outside: the server's clock and the branch's time limit for a proof. */
export interface SafetyClock {
  now: string
  proofLimitMinutes: number
}

export type Answer = { yes: true; restsOn: string[] } | { yes: false; code: string; reasons: string[]; toYes: string[] }

const no = (code: string, reasons: string[], toYes: string[]): Answer => ({ yes: false, code, reasons, toYes })
const unknownAnswer = (site: SiteState): Answer =>
  no(
    'updateNeeded',
    [`This program does not understand an entry in the site's record (${site.unknownEvent}).`],
    ['Update the app, then ask again.'],
  )

export function breakerName(breaker: BreakerRecord): string {
  return breaker.role === 'main' ? `main ${breaker.number}` : `breaker ${breaker.number}`
}

const openedByOwnTag = (site: SiteState, personId: string) => (breaker: BreakerRecord) =>
  breaker.state === 'open' && tagsOn(site, breaker.id).some((tag) => tag.personId === personId) && !grantOn(site, breaker.id)

/** Isolated for one person: every path from every source crosses an open point with that person's own tag. */
export function isIsolatedFor(site: SiteState, box: BoxState, personId: string): Answer {
  const missing = uncutFeeds(site, box, openedByOwnTag(site, personId))
  if (missing.length === 0) return { yes: true, restsOn: ['every feed is open with your own tag'] }
  const reasons: string[] = []
  const toYes: string[] = []
  for (const { breaker, unknown } of missing) {
    if (!breaker) {
      reasons.push(`The feed of ${box.name} is not known, and a source has no main in the directory.`)
      toYes.push('Record the breaker that feeds the box.')
      continue
    }
    const label = breakerName(breaker)
    if (unknown) reasons.push(`The feed of ${box.name} is not known: ${label} must be open with your tag.`)
    if (breaker.state !== 'open') {
      if (!unknown)
        reasons.push(
          `${label} is ${breaker.state === 'tripped' ? 'tripped, which is not open' : breaker.state === 'unknown' ? 'in an unknown position' : 'closed'}.`,
        )
      toYes.push(`Open ${label}, record it and hang your tag.`)
    } else {
      if (!unknown) reasons.push(`Your own tag does not hang on ${label}.`)
      toYes.push(`Hang your tag and lock on ${label}.`)
    }
  }
  return no('notIsolated', reasons, toYes)
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
  const took = proof.personId === asker.personId || proof.witnesses.some((witness) => witness.personId === asker.personId)
  const licensedEyes = proof.proverLicensed || proof.witnesses.some((witness) => witness.licensed)
  return took && licensedEyes
}

/** May this person touch the conductors in this box, now? */
export function canTouch(site: SiteState, boxId: string, asker: Asker, clock: SafetyClock): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const box = site.boxes[boxId]
  if (!box) return no('noSuchBox', ['There is no such box at this site.'], [])
  const isolation = isIsolatedFor(site, box, asker.personId)
  if (!isolation.yes) return isolation
  const grant = Object.values(site.grants).find((candidate) => isBehind(site, box, candidate.breakerId))
  if (grant) {
    const breaker = site.breakers[grant.breakerId]!
    return no(
      'grantOutstanding',
      [`${grant.name} may be closing ${breakerName(breaker)} right now: it counts as live.`],
      [`Have ${grant.name} answer the request, then open, tag and prove again.`],
    )
  }
  const proof = box.proofId ? site.proofs[box.proofId] : undefined
  if (!proof || proof.status !== 'living') {
    const why = proof?.status === 'void' ? ` The last proof ended: ${proof.voidReason}` : ''
    return no('notProven', [`${box.name} is not proven dead.${why}`], ['Prove it dead: tester, reference, every pair, tester.'])
  }
  if (proofMinutesLeft(proof, clock) <= 0)
    return no('proofExpired', [`The proof is older than ${clock.proofLimitMinutes} minutes.`], ['Prove it dead again.'])
  if (!reliesOn(proof, asker)) {
    if (proof.personId === asker.personId)
      return no(
        'needsWitness',
        ['A licensed person has to witness this proof.'],
        ['Ask a licensed crew mate to witness it on their own device.'],
      )
    return no('notWitnessed', [`The proof is ${proof.name}'s.`], ['Witness it at the box, or make your own.'])
  }
  return { yes: true, restsOn: [...isolation.restsOn, `proof by ${proof.initials}`] }
}

/** May a tag be hung here? Only on an open point, never while a request to close is unanswered. */
export function canTag(site: SiteState, breakerId: string, asker: Asker): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const breaker = site.breakers[breakerId]
  if (!breaker) return no('noSuchBreaker', ['There is no such breaker at this site.'], [])
  const grant = grantOn(site, breakerId)
  if (grant)
    return no(
      'grantOutstanding',
      [`${grant.name} was allowed to close ${breakerName(breaker)} and has not answered.`],
      ['Have the request answered first.'],
    )
  if (breaker.state !== 'open')
    return no(
      'notOpen',
      [
        `${breakerName(breaker)} is ${breaker.state === 'unknown' ? 'in an unknown position' : breaker.state}. A tag hangs only on an open breaker.`,
      ],
      ['Open it and record it open.'],
    )
  if (tagsOn(site, breakerId).some((tag) => tag.personId === asker.personId))
    return no('alreadyTagged', [`Your tag already hangs on ${breakerName(breaker)}.`], [])
  return { yes: true, restsOn: [`${breakerName(breaker)} is recorded open`] }
}

/** May this breaker be closed? Nobody's tag on it, every opened box behind it closed up or guarded, no unexplained trip. */
export function canClose(site: SiteState, breakerId: string): Answer {
  if (site.unknownEvent) return unknownAnswer(site)
  const breaker = site.breakers[breakerId]
  if (!breaker) return no('noSuchBreaker', ['There is no such breaker at this site.'], [])
  const label = breakerName(breaker)
  if (breaker.state === 'closed') return no('alreadyClosed', [`${label} is already closed.`], [])
  const reasons: string[] = []
  const toYes: string[] = []
  for (const tag of tagsOn(site, breakerId)) {
    reasons.push(`${tag.name} (${tag.initials}) has a tag on ${label}${tag.lock ? ` with lock ${tag.lock}` : ''}.`)
    toYes.push(`${tag.initials} finishes and takes the tag off.`)
  }
  for (const box of boxesBehind(site, breakerId)) {
    // A box that stays cut at another open, tagged point below this one is not reached by closing it.
    const stillCut =
      uncutFeeds(site, box, (point) => point.id !== breakerId && point.state === 'open' && tagsOn(site, point.id).length > 0).length === 0
    if (box.closure === 'opened' && !stillCut) {
      reasons.push(`${box.name} is open behind it.`)
      toYes.push(`Close ${box.name}, or cap and guard it.`)
    }
  }
  if (breaker.tripUnexplained) {
    reasons.push(`${label} tripped and nobody recorded why.`)
    toYes.push('Find and record the cause of the trip.')
  }
  const grant = grantOn(site, breakerId)
  if (grant) {
    reasons.push(`${grant.name} already has leave to close it.`)
    toYes.push(`${grant.name} answers closed or given up.`)
  }
  return reasons.length
    ? no('mayNotClose', reasons, toYes)
    : { yes: true, restsOn: ['no tags', 'every box behind it is closed up or guarded'] }
}

/** Is the circuit behind this breaker carrying power, as far as the record knows? */
export function isEnergised(site: SiteState, breaker: BreakerRecord): boolean {
  if (grantOn(site, breaker.id)) return true
  return !pathIsCut(site, breaker, (point) => point.state === 'open' || point.state === 'tripped')
}
