import { DateTime } from 'luxon'
import type { AutomatedHome } from '../home'
import type { Action } from '../model.schema'
import { programOf } from '../program'
import { homeDays, type HomeDay } from '../year'
import type { LogRow, SwitchingLog } from './read'

/** What switched a device, as far as can be told. */
export type SwitchedBy =
  | { is: 'routine'; routine: number }
  /** It switches itself off or on after a while. */
  | { is: 'itself'; minutes: number }
  /** When it could be reached again, with what is set for that. */
  | { is: 'supply' }
  /** The same as another device, at the same moment. */
  | { is: 'with'; device: string }
  /** As the log itself says. */
  | { is: 'said'; by: string }
  /** At one time of day, by nothing that is on record. */
  | { is: 'clock'; minute: number }
  | { is: 'sun'; event: 'sunrise' | 'sunset'; offset: number }
  /** By itself in the log: a hand, as far as can be told. */
  | { is: 'alone' }
export interface Switching {
  at: number
  on: boolean
  by: SwitchedBy
}
export interface Explained {
  switchings: Switching[]
  from: number
  to: number
  /** How long it was on, as far as the log reaches, seconds. */
  onSeconds: number
  /** kWh by the load on record; null: none is. */
  energy: number | null
  unreachable: { times: number; seconds: number }
}

/** A clock in a hub, a server and an app are not one; a message takes its time. Seconds. Choices of ours, no source. */
const [byClock, byEvent, together] = [90, 20, 3]
/** So many days at one time are no chance, of at least this share of the days that the log has. */
const [sameDays, ofDays] = [3, 0.4]
/** Minutes by which times of day differ at most to be one. */
const [clockSpread, sunSpread] = [4, 5]
/** Of another device’s switchings it shares at least these. */
const [sharedTimes, sharedShare] = [3, 0.5]
const mostDays = 400

/**
 * Holds the switchings of one device in a log against what its home does by itself, and looks in the rest for what a clock, the
 * sun or another device would leave there. Conditions are not looked at: what a routine would have done and did is its doing.
 * @param deviceId of the home; null: the device of the log is none of it
 * @param names in the log of devices of the home, by their ids
 */
export function explainSwitchings(
  home: Pick<AutomatedHome, 'zone' | 'position' | 'routines' | 'devices'>,
  log: SwitchingLog,
  device: string,
  deviceId: string | null,
  names: ReadonlyMap<string, string>,
): Explained | string {
  const own = log.rows.filter((row) => row.device === device)
  if (!own.length) return 'The log says nothing of this device.'
  const [from, to] = [own[0]!.at, own.at(-1)!.at]
  const first = DateTime.fromSeconds(from, { zone: home.zone }).startOf('day')
  const count = Math.floor(DateTime.fromSeconds(to, { zone: home.zone }).diff(first, 'days').days) + 1
  if (count > mostDays) return 'The log goes over more than a year: take fewer days.'
  // What began the evening before may end in it.
  const days = homeDays(first.minus({ days: 1 }).toISODate()!, count + 2, home.zone, home.position)
  const due = deviceId === null ? [] : dueFor(home, days, log.rows, deviceId, names)
  const behaviour = home.devices.find(({ id }) => id === deviceId)?.behaviour
  const switchings: Switching[] = []
  const unreachable = { times: 0, seconds: 0 }
  let [onSince, onSeconds, before] = [null as number | null, 0, null as LogRow | null]
  for (const row of own) {
    if (row.on === null) {
      unreachable.times++
      if (onSince !== null) onSeconds += row.at - onSince
      onSince = null
      before = row
      continue
    }
    if (before?.on === null) unreachable.seconds += row.at - before.at
    const on = row.on
    const last = switchings.at(-1)
    const sameAsLast = before?.on === null && last?.on === on
    if (on && onSince === null) onSince = row.at
    if (!on && onSince !== null) {
      onSeconds += row.at - onSince
      onSince = null
    }
    // The first line says how it was found; one that comes back as it was has not switched.
    if (before !== null && !sameAsLast) switchings.push({ at: row.at, on, by: byWhat(row, before, last) })
    before = row
  }
  function byWhat(row: LogRow, previous: LogRow, last: Switching | undefined): SwitchedBy {
    const nearest = nearestOf(due, row)
    if (nearest) return { is: 'routine', routine: nearest.routine }
    const itself = row.on ? behaviour?.autoOnMinutes : behaviour?.autoOffMinutes
    if (itself && last && Math.abs(row.at - last.at - itself * 60) <= byEvent) return { is: 'itself', minutes: itself }
    if (previous.on === null && row.at - previous.at > 0) return { is: 'supply' }
    return row.by ? { is: 'said', by: row.by } : { is: 'alone' }
  }
  withOthers(switchings, log.rows, device)
  byTheClock(switchings, days, home.zone, count)
  const watts = home.devices.find(({ id }) => id === deviceId)?.watts ?? 0
  return { switchings, from, to, onSeconds, energy: watts ? (watts * onSeconds) / 3_600_000 : null, unreachable }
}

interface Due {
  at: number
  /** Null: the other way than it was. */
  on: boolean | null
  routine: number
  within: number
}
function nearestOf(due: readonly Due[], { at, on }: LogRow): Due | null {
  let [low, high] = [0, due.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (due[middle]!.at < at - byClock) low = middle + 1
    else high = middle
  }
  let best: Due | null = null
  for (let index = low; index < due.length && due[index]!.at <= at + byClock; index++) {
    const one = due[index]!
    const off = Math.abs(one.at - at)
    if ((one.on === on || one.on === null) && off <= one.within && (!best || off < Math.abs(best.at - at))) best = one
  }
  return best
}
/** Everything that the routines would do to a device in these days, by the clock and by what the log says of other devices. */
function dueFor(
  home: Pick<AutomatedHome, 'routines'>,
  days: readonly HomeDay[],
  rows: readonly LogRow[],
  deviceId: string,
  names: ReadonlyMap<string, string>,
): Due[] {
  const { timed, heard } = programOf(home, days)
  const acts = (at: number, routine: number, does: readonly Action[], within: number): Due[] =>
    does.flatMap((action): Due[] => {
      if (action.do === 'tell' || action.deviceId !== deviceId) return []
      const begins = at + action.afterSeconds
      const here: Due[] = [{ at: begins, on: action.do === 'toggle' ? null : action.do === 'on', routine, within }]
      if (action.do === 'on' && action.forSeconds) here.push({ at: begins + action.forSeconds, on: false, routine, within })
      return here
    })
  const byTime = timed.flatMap(({ at, routine, does }) => acts(at, routine, does, byClock))
  const byOthers = heard.flatMap(({ routine, trigger, rule }) => {
    if (trigger.is !== 'device') return []
    const said = names.get(trigger.deviceId)
    return rows
      .filter((row) => row.device === said && row.on === trigger.on)
      .flatMap(({ at }) => acts(at + trigger.forMinutes * 60, routine, rule.then, byEvent))
  })
  return [...byTime, ...byOthers].sort((a, b) => a.at - b.at)
}

/** What is left and happens at the moment another device does the same, time and again, is one doing. */
function withOthers(switchings: Switching[], rows: readonly LogRow[], device: string): void {
  for (const on of [true, false]) {
    const others = rows.filter((row) => row.device !== device && row.on === on)
    const all = new Map<string, number>()
    for (const { device: name } of others) all.set(name, (all.get(name) ?? 0) + 1)
    const mates = new Map<string, Switching[]>()
    let low = 0
    for (const one of switchings) {
      if (one.on !== on || one.by.is !== 'alone') continue
      while (low < others.length && others[low]!.at < one.at - together) low++
      const here = new Set<string>()
      for (let index = low; index < others.length && others[index]!.at <= one.at + together; index++) here.add(others[index]!.device)
      for (const name of here) mates.set(name, [...(mates.get(name) ?? []), one])
    }
    const shared = [...mates]
      .filter(([name, list]) => list.length >= sharedTimes && list.length >= sharedShare * all.get(name)!)
      .sort((a, b) => b[1].length - a[1].length)
    for (const [name, list] of shared) for (const one of list) if (one.by.is === 'alone') one.by = { is: 'with', device: name }
  }
}

/** What is left and comes at one time of day, or one time of the sun, day after day, is a clock that nobody told us of. */
function byTheClock(switchings: Switching[], days: readonly HomeDay[], zone: string, count: number): void {
  const dayOf = (at: number) => days.findLast(({ midnight }) => midnight <= at) ?? days[0]!
  for (const on of [true, false]) {
    for (;;) {
      const left = switchings.filter((one) => one.on === on && one.by.is === 'alone')
      const minute = (at: number) => {
        const { hour, minute: past, second } = DateTime.fromSeconds(at, { zone })
        return hour * 60 + past + second / 60
      }
      const clock = tightest(left, ({ at }) => minute(at), clockSpread, 1440, dayOf)
      const sun = (event: 'sunrise' | 'sunset') =>
        tightest(left, ({ at }) => (dayOf(at)[event] === null ? null : (at - dayOf(at)[event]!) / 60), sunSpread, null, dayOf)
      const found = [
        { ...clock, as: (at: number): SwitchedBy => ({ is: 'clock', minute: Math.floor(at + 1440) % 1440 }) },
        ...(['sunrise', 'sunset'] as const).map((event) => ({
          ...sun(event),
          as: (at: number): SwitchedBy => ({ is: 'sun', event, offset: Math.round(at) }),
        })),
      ].sort((a, b) => b.list.length - a.list.length || a.spread - b.spread)[0]!
      if (found.list.length < Math.max(sameDays, ofDays * count)) break
      const by = found.as(found.middle)
      for (const one of found.list) one.by = by
    }
  }
}
/** The most switchings, one of a day, that lie within so many minutes of each other. */
function tightest(
  left: readonly Switching[],
  minuteOf: (one: Switching) => number | null,
  spread: number,
  round: number | null,
  dayOf: (at: number) => HomeDay,
): { list: Switching[]; middle: number; spread: number } {
  const timed = left.flatMap((one) => {
    const minute = minuteOf(one)
    return minute === null ? [] : [{ one, minute, day: dayOf(one.at).date }]
  })
  // Midnight lies between two times of day.
  const twice =
    round === null
      ? timed
      : [...timed, ...timed.map(({ one, minute }) => ({ one, minute: minute + round, day: dayOf(one.at - 86_400).date }))]
  twice.sort((a, b) => a.minute - b.minute)
  let best: { list: Switching[]; middle: number; spread: number } = { list: [], middle: 0, spread: Infinity }
  let low = 0
  for (let high = 0; high < twice.length; high++) {
    while (twice[high]!.minute - twice[low]!.minute > spread) low++
    const byDay = new Map<string, (typeof twice)[number]>()
    for (const one of twice.slice(low, high + 1)) if (!byDay.has(one.day)) byDay.set(one.day, one)
    const list = [...byDay.values()]
    const minutes = list.map(({ minute }) => minute).sort((a, b) => a - b)
    const wide = (minutes.at(-1) ?? 0) - (minutes[0] ?? 0)
    if (list.length > best.list.length || (list.length === best.list.length && wide < best.spread))
      best = { list: list.map(({ one }) => one), middle: minutes[Math.floor(minutes.length / 2)] ?? 0, spread: wide }
  }
  return best
}
