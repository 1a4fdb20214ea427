import { permitOn, holds, isBehind, pathIsCut, tagsOn, uncutFeeds } from '../feeds'
import type { BoxState, BreakerRecord, SiteState } from '../state'

/** May the crew go home with this box as it is? Closed, guarded, or every feed held open by the company's lock. */
export function isLeftSafe(site: SiteState, box: BoxState): boolean {
  if (box.closure === 'closed' || box.closure === 'guarded') return true
  const lockedForTheNight = (point: BreakerRecord) =>
    point.state === 'open' && !permitOn(site, point.id) && tagsOn(site, point.id).some((tag) => tag.company && holds(tag))
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

/** Is the circuit behind this breaker carrying power, as far as the record knows? */
export function isEnergised(site: SiteState, breaker: BreakerRecord): boolean {
  if (permitOn(site, breaker.id)) return true
  return !pathIsCut(site, breaker, (point) => point.state === 'open' || point.state === 'tripped')
}
