import type { BoxState, BreakerRecord, ClosePermit, SiteState, Source, Tag } from './state'

/** Tags now hanging on a breaker. */
export function tagsOn(site: SiteState, breakerId: string): Tag[] {
  return Object.values(site.tags).filter((tag) => tag.breakerId === breakerId)
}

/** Does it hold its breaker open? Not while suspended for a moment of power, not after the lever was found closed under it. */
export const holds = (tag: Tag): boolean => tag.suspendedFor === null && !tag.defeated

/** A person's own tag that protects them: one that holds, and not the company's lock. */
export function protects(tag: Tag, personId: string): boolean {
  return tag.personId === personId && !tag.company && holds(tag)
}

/** Open, with a tag that holds it open, and nobody has a permit to close it. */
export function isHeldOpen(site: SiteState, breaker: BreakerRecord): boolean {
  return breaker.state === 'open' && !permitOn(site, breaker.id) && tagsOn(site, breaker.id).some(holds)
}

/** The permit to close this breaker that has not been answered yet. */
export function permitOn(site: SiteState, breakerId: string): ClosePermit | undefined {
  return Object.values(site.grants).find((permit) => permit.breakerId === breakerId)
}

/** The name of a breaker's panel wherever a site has more than one; null: there is no other. */
export const panelNameOf = (site: SiteState, { panelId }: BreakerRecord): string | null =>
  Object.keys(site.panels).length > 1 && panelId ? (site.panels[panelId]?.name ?? null) : null

/** A breaker's number, with its panel wherever a site has more than one: "7", or "7 (cellar)". */
export function breakerMark(site: SiteState, breaker: BreakerRecord): string {
  const panel = panelNameOf(site, breaker)
  return panel ? `${breaker.number} (${panel})` : breaker.number
}
/** The same by its id, for a list or a button. */
export const markOf = (site: SiteState, id: string): string => (site.breakers[id] ? breakerMark(site, site.breakers[id]) : '?')

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
 * Sources that nothing on record switches off, and that nobody has shown to reach no box. Where they feed in is not
 * known, so that only a box's own breaker cuts them.
 */
export function looseSources(site: SiteState): Source[] {
  const switched = new Set(mainBreakers(site).map((main) => main.sourceId))
  return Object.values(site.sources).filter((source) => source.ruledOut === null && !switched.has(source.id))
}

/**
 * Is every path from a source to this breaker's load side cut at a point that passes `cuts`?
 * A panel with no recorded supply counts as supplied by an unknown source: never cut above the breaker itself.
 */
export function pathIsCut(site: SiteState, breaker: BreakerRecord, cuts: PointTest, seen: ReadonlySet<string> = new Set()): boolean {
  if (cuts(breaker)) return true
  if (looseSources(site).length > 0) return false
  return cutFurtherUp(site, breaker, cuts, seen)
}
function cutFurtherUp(site: SiteState, breaker: BreakerRecord, cuts: PointTest, seen: ReadonlySet<string>): boolean {
  if (cuts(breaker)) return true
  if (seen.has(breaker.id)) return false
  const supplies = upstreamOf(site, breaker)
  if (supplies.length === 0) return false
  const visited = new Set(seen).add(breaker.id)
  return supplies.every((supply) => cutFurtherUp(site, supply, cuts, visited))
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
  for (const _source of looseSources(site)) feeds.push({ breaker: null, unknown: true })
  if (mains.length === 0 && feeds.length === 0) feeds.push({ breaker: null, unknown: true })
  return [...open.filter((feed) => !feeds.some((other) => other.breaker?.id === feed.breaker.id)), ...feeds]
}

/** Does closing or finding this breaker closed energise the box, as far as anybody can know? */
export function isBehind(site: SiteState, box: BoxState, breakerId: string): boolean {
  const breaker = site.breakers[breakerId]
  if (!breaker) return false
  if (feedIsUnknown(box)) return true
  // What supplies no panel stands above nothing but itself.
  if (breaker.suppliesPanelId === null) return feedingBreakers(site, box).includes(breaker)
  return pointsAbove(site, feedingBreakers(site, box)).has(breakerId)
}

/** These points and everything on the way from a source to them, by id. */
function pointsAbove(site: SiteState, from: BreakerRecord[]): Set<string> {
  const above = new Set<string>()
  const climb = (point: BreakerRecord) => {
    if (above.has(point.id)) return
    above.add(point.id)
    for (const supply of upstreamOf(site, point)) climb(supply)
  }
  for (const feed of from) climb(feed)
  return above
}

/** Every point on the paths to a box: its breakers and all above them; every point of the site while a feed is unknown. */
export function pointsOf(site: SiteState, box: BoxState): Set<string> {
  return feedIsUnknown(box) ? new Set(Object.keys(site.breakers)) : pointsAbove(site, feedingBreakers(site, box))
}

/** Is this box dead as far as levers on record go? Then voltage in it is news that nothing explains. */
export const shouldBeDead = (site: SiteState, box: BoxState): boolean =>
  uncutFeeds(site, box, (point) => point.state === 'open' && !permitOn(site, point.id)).length === 0

/**
 * The boxes that voltage at this one puts in doubt, itself first: those whose isolation rests on an open point that its
 * isolation rests on too, and those not shown apart from its feeds: no reading found them dead while these carried power.
 */
export function boxesInDoubt(site: SiteState, box: BoxState): BoxState[] {
  const restsOn = new Set([...pointsOf(site, box)].filter((id) => site.breakers[id]!.state === 'open'))
  const feeds = feedIsUnknown(box) ? null : feedingBreakers(site, box)
  const reached = Object.values(site.boxes).filter((other) => {
    if (other.id === box.id) return false
    const shares = [...pointsOf(site, other)].some((id) => restsOn.has(id) || box.breakerIds.includes(id))
    return shares || feeds === null || !feeds.every((feed) => feed.id in other.ruledOut)
  })
  return [box, ...reached]
}

/** Known to carry power: recorded closed all the way up, nobody in the middle of anything. */
export function isKnownLive(site: SiteState, breaker: BreakerRecord): boolean {
  return !cutFurtherUp(site, breaker, (point) => point.state !== 'closed' || permitOn(site, point.id) !== undefined, new Set())
}

/**
 * Might closing this breaker put power into the box although no record says that it feeds it? Labels are often wrong:
 * only a breaker that carried power while the box read dead is known not to feed it. Nothing moves while a point
 * above is held open by a tag.
 */
export function mayFeedUnrecorded(site: SiteState, box: BoxState, breakerId: string, reach = reachOf(site, breakerId)): boolean {
  if (feedIsUnknown(box)) return false
  return reach.some((point) => !(point.id in box.ruledOut) && !isBehind(site, box, point.id))
}

/** The points that closing this breaker would put power on; none while something above is held open. Found once for many boxes. */
export function reachOf(site: SiteState, breakerId: string): BreakerRecord[] {
  const breaker = site.breakers[breakerId]
  if (!breaker || pathIsCut(site, breaker, (point) => point.id !== breakerId && isHeldOpen(site, point))) return []
  const reached = new Map([[breaker.id, breaker]])
  const all = Object.values(site.breakers)
  // A map is walked in the order things were put in, also while it grows.
  for (const above of reached.values()) {
    if (above.suppliesPanelId === null) continue
    for (const point of all)
      if (point.role !== 'main' && point.panelId === above.suppliesPanelId && !reached.has(point.id)) reached.set(point.id, point)
  }
  return [...reached.values()].filter((point) => point.id === breakerId || point.state !== 'open')
}

/** Boxes in which closing this breaker can put power: those behind it, and those nobody has ruled out. */
export function boxesReached(site: SiteState, breakerId: string): BoxState[] {
  const reach = reachOf(site, breakerId)
  return Object.values(site.boxes).filter((box) => isBehind(site, box, breakerId) || mayFeedUnrecorded(site, box, breakerId, reach))
}

export function boxesBehind(site: SiteState, breakerId: string): BoxState[] {
  return Object.values(site.boxes).filter((box) => isBehind(site, box, breakerId))
}

/** Boxes that hang on a panel, directly or through a panel below it. */
export function boxesOfPanel(site: SiteState, panelId: string): BoxState[] {
  return Object.values(site.boxes).filter((box) => [...pointsOf(site, box)].some((id) => site.breakers[id]!.panelId === panelId))
}

/** Does another breaker of this panel bear that number? */
export function numberTaken(site: SiteState, panelId: string | null, number: string, except: string | null = null): boolean {
  return Object.values(site.breakers).some(
    (breaker) => breaker.id !== except && breaker.panelId === panelId && breaker.number.toLowerCase() === number.trim().toLowerCase(),
  )
}
