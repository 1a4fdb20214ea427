import { judgeSignal } from '../../commission/signal'
import { causeEnded, type PairingCase, type PairingFacts, type PairingRecord, type RadioOfPairing } from '../../commission/pairing'
import type { PairingCause } from '../../commission/pairing/words'
import { powerSince } from '../../site/power-since'
import type { SiteState } from '../../site/state'
import { pairingWindow, type PairingWindow } from '../../commission/pairing/window'
import type { JobState, Unit } from '../state'
import { joiningOf, pairingOf } from './pairing-of'

/** A model whose radio is not on record is asked for what a Wi-Fi device is asked for: most are that. */
export const radioOf = ({ model }: Pick<Unit, 'model'>): RadioOfPairing =>
  model.radio === 'mesh' ? 'mesh' : model.radio === 'hub' || model.needsHub ? 'hub' : 'wifi'

/** Is it started anew without its breaker? By its catalogue entry, or by what its maker says of it, where that names no breaker. */
export const restartsAlone = ({ restartsBy, restart }: Unit['model']): boolean =>
  restartsBy === 'itself' || (restartsBy === 'unknown' && restart !== '' && !restart.includes('{breaker}'))

/** A remote with a cell of its own waits for no breaker. */
const supplyTerminals: ReadonlySet<string> = new Set(['line', 'neutral', 'load'])
export const isFed = ({ model }: Pick<Unit, 'model'>): boolean => model.terminals.some((terminal) => supplyTerminals.has(terminal))

/** @param now ms */
export function windowOf(job: JobState, site: SiteState, unit: Unit, now: number): PairingWindow {
  const box = site.boxes[unit.boxId]
  const power = box && isFed(unit) ? powerSince(site, box) : null
  const { reopenedAt } = joiningOf(job, unit.id)
  return pairingWindow(
    unit.model.pairingWindowMinutes,
    power ?? { is: 'on', from: null, to: null },
    reopenedAt === null ? null : Date.parse(reopenedAt),
    now,
  )
}

/**
 * Is there no place left on a hub: with what it held when somebody looked, and what this job put on it since? Which of several hubs
 * a device went to is known by the network it was said to be on.
 */
function isFull(job: JobState, hub: SiteState['networks'][string], hubs: number): boolean {
  const { holds, holdsMost, at, name } = hub
  if (holds === null || holdsMost === null) return false
  const since = Object.values(job.units).filter(
    (unit) =>
      !unit.removedAt &&
      unit.installedAt > at &&
      unit.pairing?.result === 'joined' &&
      radioOf(unit) === 'hub' &&
      (hubs === 1 || unit.pairing.network.toLowerCase() === name.toLowerCase()),
  )
  return holds + since.length >= holdsMost
}

function factsOf(job: JobState, site: SiteState, unit: Unit, now: number): PairingFacts {
  const window = windowOf(job, site, unit, now).is
  const { band, accounts } = pairingOf(job)
  const radio = radioOf(unit)
  const networks = Object.values(site.networks)
  const named = networks.find(({ name, kind }) => kind !== 'hub' && name.toLowerCase() === (accounts?.network ?? '').toLowerCase())
  const signal = site.signals.findLast((one) => one.boxId === unit.boxId && one.band === '2.4')
  const level =
    typeof signal?.dbm === 'number'
      ? judgeSignal({ kind: 'dbm', dbm: signal.dbm }).level
      : typeof signal?.bars === 'number'
        ? judgeSignal({ kind: 'bars', bars: signal.bars }).level
        : null
  return {
    window: window === 'over' ? 'over' : window === 'open' || window === 'byGesture' ? 'open' : 'unknown',
    joinedHere: Object.values(job.units).filter(
      (one) => one.id !== unit.id && !one.removedAt && one.pairing?.result === 'joined' && radioOf(one) === radio,
    ).length,
    bands: named?.bands.length ? named.bands : null,
    paused: band !== null && now < Date.parse(band.at) + band.minutes * 60_000,
    isolated: named?.isolated ?? false,
    boundHere: networks.some(({ bound }) => bound.length > 0),
    level,
    hubFull: networks.some((one) => one.kind === 'hub' && isFull(job, one, networks.filter(({ kind }) => kind === 'hub').length)),
  }
}

/** A device that does not join, as what to try next is worked out of it. */
export function pairingCase(job: JobState, site: SiteState, unit: Unit, now: number, record: PairingRecord | null = null): PairingCase {
  return {
    radio: radioOf(unit),
    restartsAlone: restartsAlone(unit.model),
    ownNetwork: unit.model.ownNetwork !== '',
    ownCell: !isFed(unit),
    facts: factsOf(job, site, unit, now),
    record,
    history: joiningOf(job, unit.id).history.map((entry) =>
      'seen' in entry ? { seen: entry.seen, waited: entry.waited } : { tried: entry.tried },
    ),
  }
}
/** What had kept a device from joining that joins now: by the last that was tried. */
export function causeOf(job: JobState, site: SiteState, unit: Unit): PairingCause | null {
  const asked = pairingCase(job, site, unit, 0)
  const at = asked.history.findLastIndex((entry) => 'tried' in entry)
  const last = asked.history[at]
  if (!last || !('tried' in last)) return null
  // By what was seen and tried alone: what the clock says by now was otherwise then.
  return causeEnded({ ...asked, facts: undefined, history: asked.history.slice(0, at) }, last.tried)
}
