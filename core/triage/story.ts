import { counted } from '../units/counted'

/** One callback, as far as it tells what it has in common with another. */
export interface StoryLine {
  callbackId: string
  unitId: string
  siteId: string
  boxId: string
  gang: number
  model: string
  causeId: string | null
  cause: string
  status: string
  /** The device came out for it. */
  replaced: boolean
  openedAt: string
}
export interface Story<L extends StoryLine> {
  says: string[]
  /** Devices that came out of the same gang of the same box, whenever. */
  place: L[]
  /** Others of this home within a year, at other places. */
  home: L[]
  /** Others of this model within a year, in other homes. */
  model: L[]
}

/** So many are one story, and within so many days. Choices of ours, no source. */
const [atHome, sameCause, withinDays] = [3, 3, 365]
const [ofPlace, most] = [1, 10]

/**
 * What a callback has in common with those before it: a place that eats devices, a home in which everything fails, a model that
 * fails in one way. Each alone looks like a broken device.
 * @param lines every callback that shares home or model with it, itself among them
 */
export function storyOf<L extends StoryLine>(own: L, lines: readonly L[]): Story<L> {
  const before = Date.parse(own.openedAt) - withinDays * 86_400_000
  const others = lines.filter(({ callbackId }) => callbackId !== own.callbackId).sort((a, b) => b.openedAt.localeCompare(a.openedAt))
  const recent = others.filter(({ openedAt }) => Date.parse(openedAt) >= before)
  const place = others.filter(
    ({ siteId, boxId, gang, replaced }) => siteId === own.siteId && boxId === own.boxId && gang === own.gang && replaced,
  )
  const home = recent.filter(({ siteId, boxId, gang }) => siteId === own.siteId && !(boxId === own.boxId && gang === own.gang))
  const model = recent.filter((one) => one.model === own.model && one.siteId !== own.siteId)
  const says: string[] = []
  if (place.length >= ofPlace)
    says.push(
      `${counted(place.length, 'device has', 'devices have')} come out of this place before. Look at what it drives, its joints, the heat in the box and the supply before the next goes in.`,
    )
  // Each place counts once, whatever sat there.
  const devices = 1 + new Set(home.map(({ boxId, gang }) => `${boxId} ${gang}`)).size
  if (devices >= atHome)
    says.push(
      `${devices} devices of this home within a year: the network, the supply or how it is used is likelier than ${devices} broken devices.`,
    )
  const causes = new Map<string, L[]>()
  for (const line of model) if (line.causeId) causes.set(line.causeId, [...(causes.get(line.causeId) ?? []), line])
  const [frequent] = [...causes.values()].sort((a, b) => b.length - a.length)
  const found = model.filter(({ causeId }) => causeId !== null).length
  if (frequent && frequent.length >= sameCause && 2 * frequent.length >= found)
    says.push(
      `${frequent.length} of ${found} callbacks of this model in other homes within a year had one cause: ${frequent[0]!.cause.replace(/\.$/, '')}. Look for that first; claimed together it is heard.`,
    )
  return { says, place: place.slice(0, most), home: home.slice(0, most), model: model.slice(0, most) }
}
