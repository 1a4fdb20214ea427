/** Ways to plan a day: place only what waits, keep close to what was said, or whatever is best. */
export const wayIds = ['place', 'close', 'free'] as const
export type WayId = (typeof wayIds)[number]

/** A day whose travel takes more memory than this is searched by one worker: each has a copy of its own. */
const largeTravel = 40_000_000

/**
 * How a day is searched: by so many workers at once, each way from so many beginnings, for so many seconds each.
 * @param cores Of this machine; one is left to the page.
 * @param travelBytes Of the travel between its places.
 */
export function searchesOn(cores: number, travelBytes: number): { atOnce: number; seeds: number; seconds: number } {
  const atOnce = travelBytes > largeTravel ? 1 : Math.max(1, Math.min(2 * wayIds.length, cores - 1))
  const sideBySide = atOnce >= wayIds.length
  return { atOnce, seeds: atOnce >= 2 * wayIds.length ? 2 : 1, seconds: sideBySide ? 10 : 4 }
}
