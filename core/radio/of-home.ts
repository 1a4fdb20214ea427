import type { BoxState, SiteState } from '../site/state'
import { fitRadio, predict, type RadioFit, type RadioPrediction, type Reading } from './fit'
import { barsDbm, metalBoxDb, type RadioBand } from './path-loss'
import { between, middleOf, type Between, type RoomPlan, type Spot } from './rooms'
import { nextSpot, radioVerdict, radioVerdictOfReading, type RadioVerdict } from './verdict'

/** The rooms of a home that are drawn, and what sends in them. */
export interface RadioPlan {
  rooms: RoomPlan[]
  /** Routers, access points and extenders, each in the middle of its room. */
  senders: { networkId: string; name: string; spot: Spot }[]
}
export function radioPlanOf(site: SiteState): RadioPlan {
  const rooms = site.roomOrder.flatMap((id): RoomPlan[] => {
    const place = site.places[id]
    return place?.kind === 'plan' ? [{ id, floor: place.floor, x: place.x, y: place.y, width: place.width, depth: place.depth }] : []
  })
  const senders = Object.values(site.networks).flatMap(({ networkId, name, kind, roomId }) => {
    const room = rooms.find(({ id }) => id === roomId)
    return room && kind !== 'hub' ? [{ networkId, name, spot: middleOf(room) }] : []
  })
  return { rooms, senders }
}

/** What lies between a room and the sender that is nearest by walls; null: nobody has said. */
export function wayTo(site: SiteState, plan: RadioPlan, roomId: string): Between | null {
  const place = site.places[roomId]
  if (place?.kind === 'between') return place
  const room = plan.rooms.find(({ id }) => id === roomId)
  if (!room || plan.senders.length === 0) return null
  const ways = plan.senders.map(({ spot }) => between(plan.rooms, spot, middleOf(room)))
  return ways.sort((a, b) => (a.walls ?? 0) - (b.walls ?? 0) || a.floors - b.floors || a.metres - b.metres)[0]!
}

export interface BoxRadio {
  boxId: string
  way: Between | null
  prediction: RadioPrediction | null
  /** What was read there: dBm, or what its bars stand for. */
  read: number | null
  verdict: RadioVerdict | null
}
export interface HomeRadio {
  fit: RadioFit
  boxes: BoxRadio[]
  /** The box whose reading would settle most. */
  next: string | null
}
const behindMetal = (box: BoxState) => (box.material === 'metal' ? metalBoxDb : 0)

/** What the signal is at each box of a home, from what was read in it and what lies between. */
export function radioOfHome(site: SiteState, boxes: BoxState[], band: RadioBand = '2.4'): HomeRadio {
  const plan = radioPlanOf(site)
  const ways = new Map(site.roomOrder.map((id) => [id, wayTo(site, plan, id)]))
  const readings = site.signals.flatMap(({ boxId, roomId, band: at, dbm, bars }): Reading[] => {
    const box = boxId ? site.boxes[boxId] : undefined
    const way = ways.get(box?.roomId ?? roomId ?? '')
    // A phone before the plate is not behind the metal yet.
    return at === band && way ? [{ between: way, metalDb: 0, dbm, bars }] : []
  })
  const fit = fitRadio(band, readings)
  const judged = boxes.map((box): BoxRadio => {
    const way = ways.get(box.roomId) ?? null
    const signal = site.signals.findLast((one) => one.boxId === box.id && one.band === band)
    const read = signal?.dbm ?? (typeof signal?.bars === 'number' ? barsDbm[signal.bars]! : null)
    const prediction = way ? predict(fit, way, behindMetal(box)) : null
    const verdict = read !== null ? radioVerdictOfReading(read - behindMetal(box)) : prediction ? radioVerdict(prediction) : null
    return { boxId: box.id, way, prediction, read, verdict }
  })
  const open = judged.flatMap(({ boxId, way, read }) =>
    way && read === null ? [{ id: boxId, between: way, metalDb: behindMetal(site.boxes[boxId]!) }] : [],
  )
  return { fit, boxes: judged, next: nextSpot(fit, open) }
}
