import type { BoxState, BreakerRecord, Grant, SiteState, Tag } from './state'

/** Tags now hanging on a breaker. */
export function tagsOn(site: SiteState, breakerId: string): Tag[] {
  return Object.values(site.tags).filter((tag) => tag.breakerId === breakerId)
}

/** The leave to close this breaker that has not been answered yet. */
export function grantOn(site: SiteState, breakerId: string): Grant | undefined {
  return Object.values(site.grants).find((grant) => grant.breakerId === breakerId)
}

/** Sorts breakers as one reads a panel: mains first, then by number. */
export function inPanelOrder(a: BreakerRecord, b: BreakerRecord): number {
  return Number(b.role === 'main') - Number(a.role === 'main') || a.number.localeCompare(b.number, 'en', { numeric: true })
}

/** The breakers on the way from a source to a box, with those tied to them by a shared neutral. */
export function feedingBreakers(site: SiteState, box: BoxState): BreakerRecord[] {
  const ids = new Set(box.breakerIds)
  let grew = true
  while (grew) {
    grew = false
    for (const tie of site.neutralTies) {
      if (!tie.some((id) => ids.has(id))) continue
      for (const id of tie)
        if (!ids.has(id)) {
          ids.add(id)
          grew = true
        }
    }
  }
  return [...ids].flatMap((id) => site.breakers[id] ?? [])
}

export function feedIsUnknown(box: BoxState): boolean {
  return box.unknownFeed || box.breakerIds.length === 0
}

/** Mains: the switching points directly under a source. */
export function mainBreakers(site: SiteState): BreakerRecord[] {
  return Object.values(site.breakers).filter((breaker) => breaker.role === 'main')
}

/** Breakers that supply the panel this breaker sits in. */
export function upstreamOf(site: SiteState, breaker: BreakerRecord): BreakerRecord[] {
  if (breaker.role === 'main' || breaker.panelId === null) return []
  return Object.values(site.breakers).filter((other) => other.suppliesPanelId === breaker.panelId && other.id !== breaker.id)
}

export type PointTest = (breaker: BreakerRecord) => boolean

/**
 * Is every path from a source to this breaker's load side cut at a point that passes `cuts`?
 * A panel with no recorded supply counts as supplied by an unknown source: never cut above the breaker itself.
 */
export function pathIsCut(site: SiteState, breaker: BreakerRecord, cuts: PointTest, seen: ReadonlySet<string> = new Set()): boolean {
  if (cuts(breaker)) return true
  if (seen.has(breaker.id)) return false
  const supplies = upstreamOf(site, breaker)
  if (supplies.length === 0) return false
  const visited = new Set(seen).add(breaker.id)
  return supplies.every((supply) => pathIsCut(site, supply, cuts, visited))
}

/** Paths to a box that nothing cuts, named by the breaker to act on. Unknown feeds need every main. */
export function uncutFeeds(site: SiteState, box: BoxState, cuts: PointTest): { breaker: BreakerRecord | null; unknown: boolean }[] {
  const open = feedingBreakers(site, box)
    .filter((breaker) => !pathIsCut(site, breaker, cuts))
    .map((breaker) => ({ breaker, unknown: false }))
  if (!feedIsUnknown(box)) return open
  const mains = mainBreakers(site)
  const feeds: { breaker: BreakerRecord | null; unknown: boolean }[] = mains
    .filter((main) => !cuts(main))
    .map((main) => ({ breaker: main, unknown: true }))
  // A source without a recorded main cannot be cut by anything this record knows.
  for (const source of Object.values(site.sources)) {
    if (!mains.some((main) => main.sourceId === source.id)) feeds.push({ breaker: null, unknown: true })
  }
  if (mains.length === 0 && feeds.length === 0) feeds.push({ breaker: null, unknown: true })
  return [...open.filter((feed) => !feeds.some((other) => other.breaker?.id === feed.breaker.id)), ...feeds]
}

/** Does closing or finding this breaker closed energise the box, as far as anybody can know? */
export function isBehind(site: SiteState, box: BoxState, breakerId: string): boolean {
  const breaker = site.breakers[breakerId]
  if (!breaker) return false
  if (feedIsUnknown(box)) return true
  const above = new Set<string>()
  const climb = (point: BreakerRecord) => {
    if (above.has(point.id)) return
    above.add(point.id)
    for (const supply of upstreamOf(site, point)) climb(supply)
  }
  for (const feed of feedingBreakers(site, box)) climb(feed)
  return above.has(breakerId)
}

export function boxesBehind(site: SiteState, breakerId: string): BoxState[] {
  return Object.values(site.boxes).filter((box) => isBehind(site, box, breakerId))
}
