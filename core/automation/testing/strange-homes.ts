import { DateTime } from 'luxon'
import { Chance } from '../../chance'
import { usualHabits, type AutomatedHome, type HomeDevice } from '../home'
import type { Action, Condition, Moment, Routine, Trigger } from '../model.schema'
import { modeIds, runPlaces, wallInputs, weatherTurns } from '../words'
import type { WorldEvent } from '../world'

/** Homes nobody would build, and days nobody lived: everything at once, with clocks that are changed and suns that stay away. */
export interface StrangeHome {
  home: AutomatedHome
  from: string
  days: number
  world: WorldEvent[]
}
const idOf = (kind: number, index: number) => `01890000-0000-7000-8${String(kind).padStart(3, '0')}-${String(index).padStart(12, '0')}`
/** Zones with and without changes of the clock, one of them at midnight and one by half an hour, and the days on which they are changed. */
const places: [string, readonly [number, number], string[]][] = [
  ['America/New_York', [-74, 40.7], ['2026-03-06', '2026-10-30', '2026-06-01']],
  ['Europe/London', [0, 51.5], ['2026-03-27', '2026-10-23', '2026-12-30']],
  ['Europe/Oslo', [19, 69.65], ['2026-05-15', '2026-11-24', '2026-01-12']],
  ['Australia/Lord_Howe', [159, -31.5], ['2026-04-03', '2026-10-02']],
  ['Asia/Kolkata', [77.2, 28.6], ['2026-02-26']],
  ['America/Santiago', [-70.6, -33.4], ['2026-04-03', '2026-09-04']],
  ['Africa/Nairobi', [36.8, -1.3], ['2026-07-30']],
]

export function strangeHome(seed: number): StrangeHome {
  const chance = new Chance(seed)
  const [zone, position, dates] = chance.pick(places)
  const from = chance.pick(dates)
  const days = 3 + chance.int(3)
  const deviceCount = 1 + chance.int(6)
  const some = <T>(list: readonly T[], most: number): T[] => Array.from({ length: 1 + chance.int(most) }, () => chance.pick(list))
  const devices = Array.from({ length: deviceCount }, (_, index): HomeDevice => ({
    ...{ id: `d${index}`, name: `d${index}`, room: 'room', roomId: null, light: true, watts: 20 + chance.int(5) * 10 },
    behaviour: {
      powerOn: chance.pick(['off', 'on', 'last']),
      autoOnMinutes: chance.is(0.15) ? 1 + chance.int(200) : null,
      autoOffMinutes: chance.is(0.25) ? 1 + chance.int(400) : null,
      wall: chance.pick(wallInputs),
      mustRun: chance.is(0.1),
      ...{ offAtMostMinutes: 60, indicator: 'on', lowestLevel: null },
      fanSteps: (seed + index) % 3 ? null : 1 + ((seed + index) % 6),
    },
  }))
  const sensors = (['motion', 'temperature', 'button'] as const).map((kind, index) => ({
    ...{ id: idOf(1, index), name: kind, kind, roomId: null },
  }))
  const [motion, warmth, button] = sensors.map(({ id }) => id) as [string, string, string]
  const device = () => chance.pick(devices).id
  const minute = () => (chance.is(0.3) ? 30 + chance.int(180) : chance.int(1440))
  const moment = (): Moment =>
    chance.is(0.7) ? { at: 'clock', minute: minute() } : { at: chance.pick(['sunrise', 'sunset']), offset: chance.int(241) - 120 }
  const weekdays = () => (chance.is(0.5) ? [1, 2, 3, 4, 5, 6, 7] : [...new Set(some([1, 2, 3, 4, 5, 6, 7], 5))])
  const once = () =>
    DateTime.fromISO(from)
      .plus({ days: chance.int(days) })
      .toISODate()
  const held = () => (chance.is(0.6) ? 0 : chance.int(90))
  const trigger = (): Trigger =>
    chance.pick<() => Trigger>([
      () => ({ is: 'time', moment: moment(), ...(chance.is(0.1) ? { days: [], date: once() } : { days: weekdays(), date: null }) }),
      () => ({ is: 'device', deviceId: device(), on: chance.is(0.5), forMinutes: held() }),
      () => ({ is: 'motion', sensorId: motion, seen: chance.is(0.5), forMinutes: held() }),
      () => ({ is: 'temperature', sensorId: warmth, over: chance.is(0.5), degrees: 18 + chance.int(8) }),
      () => ({ is: 'weather', turns: chance.pick(weatherTurns) }),
      () => ({ is: 'presence', someone: chance.is(0.5) }),
      () => ({ is: 'power', deviceId: device(), over: chance.is(0.5), watts: chance.int(60), forMinutes: held() }),
      () => ({ is: 'button', sensorId: button }),
      () => ({ is: 'household', does: chance.pick(['goesToBed', 'getsUp']) }),
      () => ({ is: 'mode', mode: chance.pick(modeIds) }),
    ])()
  const condition = (): Condition =>
    chance.pick<() => Condition>([
      () => ({ is: 'between', from: { at: 'clock', minute: minute() }, to: { at: 'clock', minute: minute() } }),
      () => ({ is: 'days', days: weekdays() }),
      () => ({ is: 'dark', dark: chance.is(0.5) }),
      () => ({ is: 'device', deviceId: device(), on: chance.is(0.5) }),
      () => ({ is: 'mode', modes: [...new Set(some(modeIds, 3))] }),
      () => ({ is: 'presence', someone: chance.is(0.5) }),
      () => ({ is: 'motion', sensorId: motion, seen: chance.is(0.5), forMinutes: held() }),
      () => ({ is: 'temperature', sensorId: warmth, over: chance.is(0.5), degrees: 18 + chance.int(8) }),
    ])()
  const wait = () => (chance.is(0.6) ? 0 : chance.int(120) * 60)
  const action = (): Action =>
    chance.pick<() => Action>([
      () => ({
        ...{ do: 'on', deviceId: device(), afterSeconds: wait(), level: chance.is(0.4) ? 1 + chance.int(100) : null },
        forSeconds: chance.is(0.3) ? (1 + chance.int(120)) * 60 : null,
      }),
      () => ({ do: 'off', deviceId: device(), afterSeconds: wait() }),
      () => ({ do: 'toggle', deviceId: device(), afterSeconds: wait() }),
      () => ({ do: 'tell', text: 'told' }),
    ])()
  const routines = Array.from({ length: 1 + chance.int(8) }, (_, index): Routine => {
    const same = {
      ...{ id: idOf(2, index), name: `r${index}`, runs: chance.pick(runPlaces), paused: chance.is(0.05) },
      modes: chance.is(0.2) ? [...new Set(some(modeIds, 3))] : [],
    }
    if (chance.is(0.6))
      return {
        ...same,
        kind: 'rule',
        when: some([0, 0, 0], 2).map(trigger),
        only: chance.is(0.5) ? some([0], 2).map(condition) : [],
        then: some([0], 3).map(action),
      }
    const deviceIds = [...new Set([device(), device()])]
    if (chance.is(0.6))
      return {
        ...same,
        kind: 'pair',
        deviceIds,
        on: moment(),
        off: moment(),
        ...(chance.is(0.1) ? { days: [], date: once() } : { days: weekdays(), date: null }),
        level: chance.is(0.3) ? 40 : null,
      }
    const clock = () => ({ at: 'clock' as const, minute: minute() })
    return {
      ...same,
      kind: 'loop',
      deviceIds,
      from: clock(),
      to: clock(),
      days: weekdays(),
      onMinutes: 1 + chance.int(90),
      offMinutes: 1 + chance.int(90),
    }
  })
  const home: AutomatedHome = {
    ...{ zone, position, rooms: [], devices, sensors, routines },
    habits: { ...usualHabits, people: [], hub: chance.is(0.9), declined: chance.is(0.1) ? ['location'] : [] },
  }
  const start = DateTime.fromISO(from, { zone }).startOf('day').toSeconds()
  const world = Array.from({ length: chance.int(120) }, (): WorldEvent => {
    const at = start + chance.int(days * 1440) * 60
    return chance.pick<() => WorldEvent>([
      () => ({ at, is: 'wants', deviceId: device(), on: chance.is(0.5) }),
      () => ({ at, is: 'wants', deviceId: device(), on: chance.is(0.5) }),
      () => ({ at, is: 'motion', sensorId: motion, seen: chance.is(0.5) }),
      () => ({ at, is: 'temperature', sensorId: warmth, degrees: 15 + chance.int(15) }),
      () => ({ at, is: 'weather', turns: chance.pick(weatherTurns) }),
      () => ({ at, is: 'household', does: chance.pick(['goesToBed', 'getsUp']) }),
      () => ({ at, is: 'presence', someone: chance.is(0.5) }),
      () => ({ at, is: 'mode', mode: chance.pick(modeIds) }),
      () => ({ at, is: 'button', sensorId: button }),
      () => ({ at, is: 'internet', up: chance.is(0.5) }),
      () => ({ at, is: 'mains', up: chance.is(0.6) }),
    ])()
  }).sort((a, b) => a.at - b.at)
  return { home, from, days, world }
}
