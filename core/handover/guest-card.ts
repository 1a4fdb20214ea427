import { gesturesSaid } from '../fit/gestures-said'
import type { Gesture, GestureEffect } from '../fit/words'
import { boxesOfJob, currentUnits, pointsOfBox } from '../job/progress'
import type { JobState, Unit } from '../job/state'
import type { SiteState } from '../site/state'

/** What a control does for whoever stands before it. */
export type GuestKind = 'switch' | 'dimmer' | 'fan'
export const guestKindWords: Record<GuestKind, string> = {
  switch: 'A light that is switched',
  dimmer: 'A light that dims',
  fan: 'A fan',
}
export interface Hand {
  gesture: Gesture
  does: GestureEffect
}
export interface GuestHands {
  kind: GuestKind
  hands: Hand[]
}
/** One place of a plate: what it moves. */
export interface GuestGang {
  names: string[]
  /** Null: the old switch, which works as it always did. */
  kind: GuestKind | null
  /** What hands do at it is not on record: what is said of others must not be taken for it. */
  unknown?: true
}
export interface GuestPlate {
  box: string
  /** From the left; null: nothing of this job. */
  gangs: (GuestGang | null)[]
}
export interface GuestRoom {
  name: string
  plates: GuestPlate[]
  /** What hands do here otherwise than in the rest of the home. */
  otherwise: GuestHands[]
}
/** What a visitor has to know of a home: what hands do, and what each plate moves. No code, no account, nothing of anybody’s. */
export interface GuestCard {
  home: string
  hands: GuestHands[]
  /** Some switches stayed what they were. */
  oldOnes: boolean
  /** A key that is held for long, or flipped many times, makes its device forget the home. */
  mayForget: boolean
  rooms: GuestRoom[]
}

const kindOf = ({ model }: Unit): GuestKind => (model.kind === 'dimmer' ? 'dimmer' : model.kind === 'fanControl' ? 'fan' : 'switch')
const said = (hands: readonly Hand[]) =>
  gesturesSaid({ gestures: [...hands] })
    .sort()
    .join()
const kinds: readonly GuestKind[] = ['switch', 'dimmer', 'fan']

/** The gestures that most devices of a kind are moved by. */
function usualHands(units: readonly Unit[]): Map<GuestKind, Hand[]> {
  const usual = new Map<GuestKind, Hand[]>()
  for (const kind of kinds) {
    const known = units.filter((unit) => kindOf(unit) === kind && unit.model.gestures.length)
    const counts = new Map<string, number>()
    for (const { model } of known) counts.set(said(model.gestures), (counts.get(said(model.gestures)) ?? 0) + 1)
    const [most] = [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
    const one = known.find(({ model }) => said(model.gestures) === most?.[0])
    if (one) usual.set(kind, one.model.gestures)
  }
  return usual
}
/** What is said of a kind is not said again of one that is moved by less of the same. */
function withoutRepeats(all: readonly GuestHands[]): GuestHands[] {
  const holds = (larger: readonly Hand[], smaller: readonly Hand[]) =>
    smaller.every((hand) => larger.some(({ gesture, does }) => gesture === hand.gesture && does === hand.does))
  return all.filter(
    (one, index) =>
      !all.some((other, at) => at !== index && holds(other.hands, one.hands) && (other.hands.length > one.hands.length || at < index)),
  )
}

/**
 * The card of a home for whoever visits it, from what is in the wall.
 * @param home its name
 */
export function guestCard(job: JobState, site: SiteState, home: string): GuestCard {
  const units = currentUnits(job)
  const usual = usualHands(units)
  const boxes = boxesOfJob(job, site)
  const plates = boxes.flatMap((box) => {
    const gangs = Array.from({ length: box.gangs }, (_, index): (GuestGang & { unit: Unit | null }) | null => {
      const gang = index + 1
      const points = pointsOfBox(job, box.id, gang).filter(({ controls }) =>
        controls.some((one) => one.boxId === box.id && one.gang === gang),
      )
      if (!points.length) return null
      const unit = units.find((one) => one.boxId === box.id && one.gang === gang) ?? null
      const named = (id: string, name: string) => unit?.channelNames[id] || (points.length === 1 && unit?.name) || name
      const unknown = unit && !unit.model.gestures.length ? { unknown: true as const } : {}
      return { names: points.map(({ id, name }) => named(id, name)), kind: unit && kindOf(unit), ...unknown, unit }
    })
    return gangs.some(Boolean) ? [{ roomId: box.roomId ?? '', box: box.name, gangs }] : []
  })
  const roomIds = [...new Set(plates.map(({ roomId }) => roomId))]
  const rooms = roomIds.map((roomId): GuestRoom => {
    const own = plates.filter((plate) => plate.roomId === roomId)
    const odd = own
      .flatMap(({ gangs }) => gangs.flatMap((gang) => gang?.unit ?? []))
      .filter((unit) => unit.model.gestures.length && said(unit.model.gestures) !== said(usual.get(kindOf(unit)) ?? []))
    const otherwise = kinds.flatMap((kind) => {
      const unit = odd.find((one) => kindOf(one) === kind)
      return unit ? [{ kind, hands: unit.model.gestures }] : []
    })
    return {
      name: site.rooms[roomId]?.name ?? '',
      plates: own.map(({ box, gangs }) => ({
        box,
        gangs: gangs.map((gang) => gang && { names: gang.names, kind: gang.kind, ...(gang.unknown ? { unknown: true as const } : {}) }),
      })),
      otherwise: withoutRepeats(otherwise),
    }
  })
  return {
    home,
    hands: withoutRepeats(kinds.flatMap((kind) => (usual.has(kind) ? [{ kind, hands: usual.get(kind)! }] : []))),
    oldOnes: plates.some(({ gangs }) => gangs.some((gang) => gang?.kind === null)),
    mayForget: units.some(({ model }) => model.reset !== ''),
    rooms,
  }
}
