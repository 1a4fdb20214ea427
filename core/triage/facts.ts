import { monthSaid } from '../fit/battery'
import { loadWatts } from '../fit/device-model'
import { automationOf } from '../job/automation/automation-of'
import { pairingOf } from '../job/pairing/pairing-of'
import { channelPoints, currentUnits, pointsOfUnit, pointStatus } from '../job/progress'
import type { JobState, Unit } from '../job/state'
import { batteriesIn, batteryOf } from '../job/unit/batteries'
import { nameClashes } from '../names/clashes'
import type { SiteState } from '../site'
import { atWork } from './at-work'
import type { HomeFact } from './belief'
import { causes } from './causes'

const day = 86_400_000
/** How likelier or rarer something of the record makes a cause: common practice, no source. */
type Weighs = Record<string, number>
const network = causes.filter(({ kind }) => kind === 'network').map(({ id }) => id)
const all = (ids: readonly string[], weight: number): Weighs => Object.fromEntries(ids.map((id) => [id, weight]))

/** What this home’s record says of a device that was called about, and questions that make no sense there. */
export interface OfThisHome {
  facts: HomeFact[]
  notHere: ReadonlySet<string>
  /** Who works in the home now; null: nobody. */
  atWork: string | null
}

class Facts {
  readonly facts: HomeFact[] = []
  readonly notHere = new Set<string>()
  add(id: string, words: string, weighs: Weighs): void {
    this.facts.push({ id, words, weighs })
  }
  skip(...ids: string[]): void {
    for (const id of ids) this.notHere.add(id)
  }
}

function ofAge(found: Facts, unit: Unit, now: string): void {
  const days = Math.floor((Date.parse(now) - Date.parse(unit.installedAt)) / day)
  const old =
    days >= 730
      ? `in the wall for ${Math.floor(days / 365)} years`
      : days < 1
        ? 'in the wall since today'
        : days === 1
          ? 'in the wall since yesterday'
          : `in the wall for ${days} days`
  if (days < 45)
    found.add('age', old, {
      earlyFailure: 4,
      looseJoint: 2,
      swapped: 2,
      travelersMixed: 1.5,
      gesture: 2,
      ...all(['relayWorn', 'keyWorn', 'supplyWorn'], 0.4),
    })
  else if (days < 3 * 365) found.add('age', old, { earlyFailure: 0.1, swapped: 0.4, travelersMixed: 0.5 })
  else found.add('age', old, { earlyFailure: 0.02, swapped: 0.2, travelersMixed: 0.3, ...all(['relayWorn', 'keyWorn', 'supplyWorn'], 2.5) })
}

const wired = causes.filter(({ kind }) => kind === 'wiring').map(({ id }) => id)
const mains = [...wired, 'relayStuck', 'relayWorn', 'supplyWorn', 'tooWarm', 'surge', 'breakerOff', 'otherLoadTrips', 'airGap']
/** The battery it runs on, or that of a remote which tells it what to do. */
function ofBattery(found: Facts, job: JobState, unit: Unit, now: string): void {
  const own = batteryOf(job, unit)
  const first = own ?? batteriesIn(job).find(({ partner }) => partner?.id === unit.id)
  if (!first) {
    found.add('battery', 'nothing here runs on a battery', { batteryEmpty: 0.01 })
    return
  }
  const { dueOn, fittedOn } = first
  const since = (Date.parse(now) - Date.parse(fittedOn ?? first.unit.installedAt)) / day
  const words = `${own ? 'its battery' : `the battery of ${first.unit.name || first.unit.serial}`} is due by ${monthSaid(dueOn)}`
  found.add('battery', words, { batteryEmpty: (own ? 8 : 3) * (dueOn <= now.slice(0, 10) ? 5 : since < 180 ? 0.4 : 1) })
  if (!own) return
  found.add('cordless', 'no conductor goes to it', all(mains, 0.02))
  found.skip('tab', 'lever')
}

/** Below this a device is in reach and answers badly; above the other it has enough. Common practice, no source. */
const [weakDbm, goodDbm] = [-70, -60]
function ofRadio(found: Facts, unit: Unit): void {
  const { model, pairing } = unit
  if (model.radio === 'none' || model.setupCode === 'none') {
    found.add('noRadio', 'this model joins no network', all([...network, 'wasReset', 'accountWrong', 'permissionOff'], 0.01))
    found.skip('appSays', 'router', 'web', 'hub', 'phones', 'far', 'moved', 'update', 'phrase')
    return
  }
  const viaHub = model.needsHub || model.radio === 'hub' || model.radio === 'mesh'
  if (viaHub) found.add('hub', 'goes by a hub', { hubOff: 2.5, meshHole: 2.5, wrongBand: 0.05, routerChanged: 0.4 })
  else {
    found.add('hub', 'goes by no hub', { hubOff: 0.02, meshHole: 0.05 })
    found.skip('hub')
  }
  if (!pairing || pairing.result === 'failed') {
    found.add('joined', 'not joined when the crew left', { ...all(['wrongBand', 'weakSignal'], 3), wasReset: 0.3 })
    return
  }
  const { signal } = pairing
  if (!signal) return
  const words =
    signal.kind === 'dbm' ? `${signal.dbm < 0 ? '−' : ''}${Math.abs(signal.dbm)} dBm when it joined` : `${signal.bars} bars when it joined`
  const weak = signal.kind === 'dbm' ? signal.dbm <= weakDbm : signal.bars <= 1
  const good = signal.kind === 'dbm' ? signal.dbm >= goodDbm : signal.bars >= 3
  found.add('signal', words, weak ? { weakSignal: 4, meshHole: 1.5 } : good ? { weakSignal: 0.35 } : { weakSignal: 1.4 })
  if (pairing.attempts > 2) found.add('tries', `joined at the ${pairing.attempts}th try`, { weakSignal: 1.5, wrongBand: 1.5 })
}

function ofPoints(found: Facts, job: JobState, site: SiteState, unit: Unit): void {
  const points = pointsOfUnit(job, unit)
  if (!points.length) return
  const failed = points.some((point) => pointStatus(job, site, point) !== 'passed')
  if (failed)
    found.add('tests', 'not every check passed before the crew left', {
      ...all(['swapped', 'travelersMixed', 'neutralLost'], 2.5),
      dimRange: 1.5,
    })
  else
    found.add('tests', 'every check passed before the crew left', { swapped: 0.1, travelersMixed: 0.15, neutralLost: 0.6, dimRange: 0.7 })
  if (points.some(({ controls }) => controls.length > 1))
    found.add('ways', 'switched from several places', { travelersMixed: 3, otherSwitchOff: 1.6 })
  else {
    found.add('ways', 'switched from one place', { travelersMixed: 0.02, otherSwitchOff: 0.7 })
    found.skip('otherWay')
  }
  const lights = points.filter(({ load }) => load.technology === 'led' || load.technology === 'filament')
  if (!lights.length) {
    found.add('load', 'no lamp is on it', all(['lampDead', 'lampUnsuited', 'dimRange'], 0.02))
    found.skip('lamp', 'level')
  } else if (unit.model.kind !== 'dimmer') {
    found.add('load', 'it does not dim', { dimRange: 0.05, lampUnsuited: 0.5 })
    found.skip('level')
  }
  const watts = points.reduce((sum, { load }) => sum + loadWatts(load), 0)
  if (lights.length && watts < unit.model.minWatts)
    found.add('small', `${watts} W on it, and it wants ${unit.model.minWatts} W`, { lampUnsuited: 3, dimRange: 2.5 })
  if (!unit.model.terminals.includes('neutral')) found.add('neutral', 'it has no neutral', { neutralLost: 0.1, lampUnsuited: 1.5 })
  const defect = Object.values(job.defects).find(({ pointId, status }) => status === 'open' && points.some(({ id }) => id === pointId))
  if (defect) found.add('defect', `an open defect: ${defect.text}`, { looseJoint: 2, disturbed: 1.2, dimRange: 1.5 })
  ofRoutines(
    found,
    job,
    points.map(({ id }) => id),
  )
}

function ofRoutines(found: Facts, job: JobState, pointIds: readonly string[]): void {
  const routines = Object.values(automationOf(job).routines)
  // Wherever it is named, as what is moved or as what is looked at.
  const naming = routines.filter(({ routine }) => pointIds.some((id) => JSON.stringify(routine).includes(id)))
  const names = naming.map(({ routine }) => `“${routine.name}”`).slice(0, 3)
  if (naming.length)
    found.add('routines', `${names.join(', ')} switch${naming.length === 1 ? 'es' : ''} it`, {
      scheduleWrong: 2.5,
      rulesFight: naming.length > 1 ? 2.5 : 0.6,
    })
  else found.add('routines', 'nothing of ours switches it by itself', { scheduleWrong: 0.4, rulesFight: 0.15 })
  if (naming.some(({ routine }) => routine.runs === 'cloud'))
    found.add('cloud', 'what it does by itself runs behind the internet', { serviceDown: 2, internetOut: 1.5 })
  const declined = pairingOf(job).accounts?.declined ?? []
  if (declined.length) found.add('declined', 'permissions were declined when the home was set up', { permissionOff: 4 })
}

function ofName(found: Facts, job: JobState, unit: Unit): void {
  const names = currentUnits(job)
    .flatMap((one) => (one.id === unit.id ? [] : [one.name, ...Object.values(one.channelNames)]))
    .filter(Boolean)
  const mine = [unit.name, ...channelPoints(job, unit).map(({ id }) => unit.channelNames[id] ?? '')].filter(Boolean)
  const clash = mine.flatMap((name) => nameClashes(name, names)).find(({ other }) => other)
  if (clash) found.add('name', clash.sentence, { namesClash: 4 })
  else if (mine.length) found.add('name', 'no other name of the home holds its own', { namesClash: 0.4 })
}

/** Callbacks before, and beside: one story, where it is one. */
function ofCallbacks(found: Facts, job: JobState, unit: Unit): void {
  const others = Object.values(job.callbacks)
  const here = others.filter((one) => {
    const of = job.units[one.unitId]
    return of?.boxId === unit.boxId && of.gang === unit.gang && one.status === 'closed'
  })
  for (const { causeId, cause } of here)
    if (causeId)
      found.add(
        `before-${causeId}`,
        `it was called about before: ${cause || (causes.find(({ id }) => id === causeId)?.words ?? 'something else')}`,
        { [causeId]: 3 },
      )
  if (others.some(({ status, unitId }) => status !== 'closed' && unitId !== unit.id))
    found.add(
      'others',
      'another device of this home is called about, too',
      all(['routerChanged', 'routerStuck', 'internetOut', 'hubOff', 'surge', 'serviceDown'], 2),
    )
}

/** @param now ISO */
export function ofThisHome(job: JobState, site: SiteState, unit: Unit, now: string): OfThisHome {
  const found = new Facts()
  ofAge(found, unit, now)
  ofBattery(found, job, unit, now)
  ofRadio(found, unit)
  ofPoints(found, job, site, unit)
  ofName(found, job, unit)
  ofCallbacks(found, job, unit)
  if (unit.model.restartsBy === 'breaker') {
    found.add('gap', 'this model has no air gap', { airGap: 0.03 })
    found.skip('tab', 'again')
  }
  const working = atWork(job, site)
  // Nothing is switched while hands may be in a box.
  if (working) found.skip('again', 'otherWay')
  return { facts: found.facts, notHere: found.notHere, atWork: working }
}
