import { sameName, type BoxState, type SiteState } from '../site'
import type { BoxKind } from '../site/survey-words'
import type { LightPoint } from '../job/parts.schema'

/** Names one taps instead of typing. Common practice, no source. */
const rooms = [
  'Hall',
  'Kitchen',
  'Living room',
  'Bedroom',
  'Bathroom',
  'Stair',
  'Landing',
  'Office',
  'Utility room',
  'Porch',
  'Garage',
  'Loft',
]
const places: Record<BoxKind, string[]> = {
  wall: ['door', 'far door', 'window', 'bed left', 'bed right', 'foot', 'head', 'bench', 'mirror'],
  fixture: ['ceiling', 'ceiling 2', 'wall lamp', 'fan', 'outdoor lamp'],
  junction: ['junction', 'junction 2'],
}

/** Names of rooms that this home does not have yet. */
export const roomNamesLeft = (site: SiteState): string[] =>
  rooms.filter((name) => !site.roomOrder.some((id) => sameName(site.rooms[id]!.name, name)))

/** Names for one more box in a room. */
export function boxNamesLeft(site: SiteState, roomId: string, kind: BoxKind): string[] {
  const taken = site.boxOrder.flatMap((id) => (site.boxes[id]!.roomId === roomId ? [site.boxes[id]!.name] : []))
  return places[kind].filter((name) => !taken.some((one) => sameName(one, name)))
}

/** A name for what a gang switches: after its room, and after its box and gang where that is taken. */
export function pointNameFor(site: SiteState, points: LightPoint[], box: BoxState, gang: number, what: string): string {
  const room = site.rooms[box.roomId]?.name ?? ''
  const taken = (name: string) => points.some((point) => point.roomId === box.roomId && sameName(point.name, name))
  const names = [`${room} ${what}`, `${room} ${box.name} ${what}`, `${room} ${box.name} ${what}, gang ${gang}`]
  return names.find((name) => !taken(name)) ?? `${names[2]} (${points.length + 1})`
}

/** The number of the breaker that probably sits next: one further, or two where this panel counts by twos on a side. */
export function nextBreakerNumber(site: SiteState, panelId: string): string {
  const numbers = Object.values(site.breakers)
    .filter((breaker) => breaker.panelId === panelId && breaker.role !== 'main')
    .flatMap(({ number }) => (/^\d+$/.test(number) ? [Number(number)] : []))
  const free = (from: number): number => (numbers.includes(from) ? free(from + 1) : from)
  return String(numbers.length ? free(Math.max(...numbers) + 1) : 1)
}
