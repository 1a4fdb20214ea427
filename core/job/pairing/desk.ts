import {
  leadersFirst,
  nextSteps,
  pairingOrder,
  type NextStep,
  type PairingOrder,
  type PairingRecord,
  type PairingWindow,
  type RadioOfPairing,
} from '../../commission/pairing'
import { currentUnits, placeInGroup, placesOf, pointsInOrder } from '../progress'
import type { SiteState } from '../../site/state'
import type { JobState, Unit } from '../state'
import { pairingCase, radioOf, restartsAlone, windowOf } from './case-of'
import { joiningOf, triedBy } from './pairing-of'
import type { Joining } from './state'

/** What the company has learnt: causes by radio and model, and how long a model takes to join, minutes. */
export interface CompanyPairing {
  causes: Partial<Record<RadioOfPairing, PairingRecord['radio']>>
  models: Record<string, { causes: PairingRecord['model']; joins: number | null }>
}
/** A device that is joined or waits for it, as one strip. */
export interface Strip {
  unit: Unit
  joining: Readonly<Joining>
  window: PairingWindow
  state: 'joined' | 'parked' | 'off' | 'waiting' | 'trying'
  /** Initials of a mate who joins it right now. */
  byMate: string | null
  /** Three tries or ten minutes have gone by: it is better left for later. */
  enough: boolean
  /** What to try next, the best first; empty before anything went wrong. */
  next: NextStep[]
}
export interface PairingDesk {
  /** The one to do now; null: nothing that waits has power. */
  first: Strip | null
  strips: Strip[]
  order: PairingOrder
  parked: Strip[]
  joined: Strip[]
}
/** Common practice, no source: joining takes up to a minute, and is given two. */
export const patienceMinutes = 2
export const mostTries = 3
export const mostMinutes = 10
const minuteMs = 60_000

/**
 * All that pairs with a network: what is first, by when, and what to do where one does not join.
 * @param now ms, by the server
 * @param personId who looks: what a mate joins is not offered to them
 */
export function pairingDesk(
  job: JobState,
  site: SiteState,
  now: number,
  personId: string,
  company: CompanyPairing | null = null,
): PairingDesk {
  const units = currentUnits(job).filter(({ model }) => model.setupCode !== 'none')
  const strips = units.map((unit): Strip => {
    const joining = joiningOf(job, unit.id)
    const window = windowOf(job, site, unit, now)
    const state = joining.parked
      ? 'parked'
      : joining.open
        ? 'trying'
        : unit.pairing?.result === 'joined' && joining.history.length === 0
          ? 'joined'
          : window.is === 'off'
            ? 'off'
            : 'waiting'
    const since = joining.roundSince === null ? null : (now - Date.parse(joining.roundSince)) / minuteMs
    const known: PairingRecord | null = company && {
      radio: company.causes[radioOf(unit)] ?? {},
      model: company.models[unit.model.id]?.causes ?? {},
    }
    const wrong = joining.history.length > 0 && !joining.open
    return {
      ...{ unit, joining, window, state, byMate: triedBy(job, unit.id, personId, now) },
      enough: state !== 'joined' && state !== 'parked' && (joining.tries >= mostTries || (since !== null && since >= mostMinutes)),
      next: wrong ? nextSteps(pairingCase(job, site, unit, now, known)) : [],
    }
  })
  const places = pointsInOrder(job).flatMap(placesOf)
  const walk = ({ unit }: Strip) => places.findIndex(({ boxId, gang }) => boxId === unit.boxId && gang === unit.gang)
  const open = strips.filter(({ state }) => state === 'waiting' || state === 'trying').sort((a, b) => walk(a) - walk(b))
  // A mate has hands of their own.
  const mine = open.filter(({ byMate }) => byMate === null)
  const waiting = mine.map((strip) => waitingOf(site, strip, now, company))
  const soonest = pairingOrder(waiting)
  const leaders = new Map(
    mine.flatMap(({ unit }) => {
      const group = placeInGroup(job, unit)
      return group?.is === 'secondary' ? [[unit.id, group.primary.id] as const] : []
    }),
  )
  const inTime = soonest.now.map((id) => waiting.find((one) => one.id === id)!)
  const order = { ...soonest, now: leadersFirst(inTime, leaders).map(({ id }) => id) }
  const inOrder = [...order.now, ...order.restarted, ...order.cycles.flatMap(({ ids }) => ids)]
  const free = mine.sort((a, b) => inOrder.indexOf(a.unit.id) - inOrder.indexOf(b.unit.id))
  // What is being tried stays in front of whoever tries it, and what has not gone wrong comes before what has gone wrong often.
  const own = free.find(({ joining }) => joining.open?.personId === personId)
  const first = own ?? free.find(({ enough }) => !enough) ?? free[0] ?? null
  return {
    first,
    strips: [...free, ...open.filter((strip) => !mine.includes(strip)), ...strips.filter(({ state }) => state === 'off')],
    order,
    parked: strips.filter(({ state }) => state === 'parked'),
    joined: strips.filter(({ state }) => state === 'joined'),
  }
}
/** Windows that burn down now, the shortest first: what a page that is about something else has to say of them. */
export function burningWindows(job: JobState, site: SiteState, now: number): { unit: Unit; until: number }[] {
  return currentUnits(job)
    .flatMap((unit) => {
      if (unit.model.setupCode === 'none' || unit.pairing?.result === 'joined' || joiningOf(job, unit.id).parked) return []
      const window = windowOf(job, site, unit, now)
      return window.is === 'open' ? [{ unit, until: window.until }] : []
    })
    .sort((a, b) => a.until - b.until)
}
function waitingOf(site: SiteState, { unit, window }: Strip, now: number, company: CompanyPairing | null) {
  const minutes = unit.model.pairingWindowMinutes ?? Infinity
  const feeds = site.boxes[unit.boxId]?.breakerIds ?? []
  // Only what is over for certain is late: where nobody knows, a look at the device tells.
  const left =
    window.is === 'open'
      ? (window.until - now) / minuteMs
      : window.is === 'perhaps'
        ? (window.atMost - now) / minuteMs
        : window.is === 'over'
          ? 0
          : Infinity
  return {
    id: unit.id,
    joins: Math.min(company?.models[unit.model.id]?.joins ?? patienceMinutes, minutes),
    left,
    window: minutes,
    restartsAlone: restartsAlone(unit.model),
    // Of two circuits in one box nobody has said here which one feeds it.
    breakerId: feeds.length === 1 ? feeds[0]! : null,
  }
}
