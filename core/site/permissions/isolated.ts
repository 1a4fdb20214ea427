import { permitOn, looseSources, protects, tagsOn, uncutFeeds } from '../feeds'
import { breakerName, sentence } from '../names'
import { boxName } from '../proofs'
import type { BoxState, BreakerRecord, SiteState } from '../state'
import { no, type Answer } from './answer'

const stateWords = { closed: 'closed', open: 'open', tripped: 'tripped, which is not open', unknown: 'in an unknown position' }

const openedByOwnTag = (site: SiteState, personId: string) => (breaker: BreakerRecord) =>
  breaker.state === 'open' && tagsOn(site, breaker.id).some((tag) => protects(tag, personId)) && !permitOn(site, breaker.id)

/** Isolated for one person: every path from every source crosses an open point with that person's own tag. */
export function isIsolatedFor(site: SiteState, box: BoxState, personId: string): Answer {
  const missing = uncutFeeds(site, box, openedByOwnTag(site, personId))
  if (missing.length === 0) return { yes: true, restsOn: ['every feed is open with your own tag'] }
  const reasons: string[] = []
  const toYes: string[] = []
  const name = boxName(site, box)
  const loose = looseSources(site)
  for (const source of loose) {
    reasons.push(`${sentence(source.name)} (${source.kind}) has no switching point on record: no {main} cuts it.`)
    toYes.push('Record on the {panel} page where it is switched off, or have a licensed person record why it cannot reach any box.')
  }
  for (const { breaker, unknown } of missing) {
    if (!breaker) {
      if (loose.length === 0) reasons.push(`The feed of ${name} is not known, and no {main} is on record.`)
      toYes.push('Record the {breaker} that feeds the box.')
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
      toYes.push(`Check your lock on ${label}, record what happened and hang it again.`)
    } else {
      if (!unknown) reasons.push(`Your own tag does not hang on ${label}.`)
      toYes.push(`Hang your tag and lock on ${label}.`)
    }
  }
  return no('notIsolated', reasons, [...new Set(toYes)])
}
