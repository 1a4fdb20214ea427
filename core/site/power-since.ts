import type { StreamEvent } from '../stream/envelope'
import { inPanelOrder, mainBreakers, upstreamOf } from './feeds'
import type { BoxState, BreakerRecord, SiteState } from './state'

/** So long an entry is on its way without having waited, ms. */
const travelsMs = 15_000

export const earlierOf = (a: string, b: string): string => (Date.parse(b) < Date.parse(a) ? b : a)

/**
 * When something was done that an entry tells of: not before what the phone’s clock said, where that is not ahead of the server’s,
 * and not after the entry arrived. It may have waited on the phone, or the phone’s clock may be slow: nobody knows which.
 */
export const whenDone = ({ at, receivedAt }: Pick<StreamEvent, 'at' | 'receivedAt'>): { from: string; to: string } =>
  Math.abs(Date.parse(receivedAt) - Date.parse(at)) < travelsMs
    ? { from: receivedAt, to: receivedAt }
    : { from: earlierOf(at, receivedAt), to: receivedAt }

/** Since when a box has power by the record: as early and as late as it may have come, ms; null: nobody recorded it. */
export interface PowerSince {
  is: 'off' | 'on'
  from: number | null
  to: number | null
}

/** Every point from a source down to a breaker. */
function wayTo(site: SiteState, breaker: BreakerRecord): BreakerRecord[] {
  const way = new Set([breaker])
  for (const one of way) for (const above of upstreamOf(site, one)) way.add(above)
  if (![...way].some(({ role }) => role === 'main')) for (const main of mainBreakers(site)) way.add(main)
  return [...way]
}
const latest = (times: (string | null | undefined)[]): number | null =>
  times.reduce<number | null>((most, one) => (one ? Math.max(most ?? -Infinity, Date.parse(one)) : most), null)

/**
 * Of a box that two circuits reach it may have come with either: from the older one at the earliest. A breaker that may be closed
 * and has not been said to be is off: nothing waits behind it yet.
 */
export function powerSince(site: SiteState, box: BoxState): PowerSince {
  const known = box.breakerIds.flatMap((id) => site.breakers[id] ?? [])
  const feeds = known.length ? known : mainBreakers(site).sort(inPanelOrder).slice(0, 1)
  const on = feeds.map((feed) => wayTo(site, feed)).filter((way) => way.every(({ state }) => state === 'closed'))
  if (feeds.length && !on.length) return { is: 'off', from: null, to: null }
  const from = on.map((way) => latest(way.map(({ closedBetween }) => closedBetween?.from)))
  const to = on.map((way) => latest(way.map(({ closedBetween }) => closedBetween?.to)))
  const least = from.length && from.every((one) => one !== null) ? Math.min(...(from as number[])) : null
  return { is: 'on', from: least, to: to.reduce<number | null>((most, one) => (one === null ? most : Math.max(most ?? one, one)), null) }
}
