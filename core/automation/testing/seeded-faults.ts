import { Chance } from '../../chance'
import type { FindingKind, Fix } from '../findings'
import { usualBehaviour, usualHabits, type AutomatedHome, type HomeDevice } from '../home'
import type { Action, Behaviour, Condition, Moment, Routine, Rule, Trigger } from '../model.schema'
import type { RunPlace } from '../words'

/** Homes in which everything is in order, and the same with one thing wrong in it that is known. */
export interface SeededFault {
  name: string
  /** What is to be found. */
  kind: FindingKind
  /** Findings about these are about the fault. */
  ids: string[]
  home: AutomatedHome
}

let counter = 0
export const newId = () => `01890000-0000-7000-8a00-${String(++counter).padStart(12, '0')}`
const everyDay = [1, 2, 3, 4, 5, 6, 7]
export const clock = (hours: number, minutes = 0): Moment => ({ at: 'clock', minute: hours * 60 + minutes })
export const sun = (at: 'sunrise' | 'sunset', offset = 0): Moment => ({ at, offset })
export const at = (moment: Moment, days = everyDay): Trigger => ({ is: 'time', moment, days, date: null })
export const on = (deviceId: string, more: Partial<Extract<Action, { do: 'on' }>> = {}): Action => ({
  ...{ do: 'on', deviceId, level: null, afterSeconds: 0, forSeconds: null },
  ...more,
})
export const off = (deviceId: string, afterSeconds = 0): Action => ({ do: 'off', deviceId, afterSeconds })
const places: [string, readonly [number, number]][] = [
  ['America/New_York', [-74, 40.7]],
  ['Europe/London', [0, 51.5]],
  ['Australia/Sydney', [151.2, -33.9]],
  ['America/Denver', [-105, 39.7]],
]

export class HomeMaker {
  readonly rooms: AutomatedHome['rooms'] = []
  readonly devices: HomeDevice[] = []
  readonly sensors: AutomatedHome['sensors'] = []
  readonly routines: Routine[] = []
  habits = { ...usualHabits, people: usualHabits.people.map((one) => ({ ...one })) }
  constructor(
    readonly zone: string,
    readonly position: readonly [number, number],
  ) {}
  room(name: string) {
    const room = { id: newId(), name }
    this.rooms.push(room)
    return room.id
  }
  device(name: string, roomId: string | null, behaviour: Partial<Behaviour> = {}, light = true): string {
    const id = newId()
    this.devices.push({ ...{ id, name, room: '', roomId, light, watts: 40 }, behaviour: { ...usualBehaviour, ...behaviour } })
    return id
  }
  sensor(name: string, kind: 'motion' | 'temperature' | 'button', roomId: string | null): string {
    const id = newId()
    this.sensors.push({ id, name, kind, roomId })
    return id
  }
  rule(name: string, when: Trigger[], then: Action[], only: Condition[] = [], more: Partial<Rule> = {}): string {
    const id = newId()
    this.routines.push({ ...{ id, name, runs: 'hub', paused: false, modes: [], kind: 'rule', when, only, then }, ...more })
    return id
  }
  pair(name: string, deviceIds: string[], from: Moment, to: Moment, days = everyDay, runs: RunPlace = 'hub'): string {
    const id = newId()
    this.routines.push({
      ...{ id, name, runs, paused: false, modes: [], kind: 'pair', deviceIds, on: from, off: to, days, date: null, level: null },
    })
    return id
  }
  get home(): AutomatedHome {
    const { zone, position, rooms, devices, sensors, routines, habits } = this
    return { zone, position, rooms, devices, sensors, routines, habits }
  }
}

/** Everything in order: paired schedules, a bedtime, lights by motion that wait long enough, a fan with a gap, presence, a motor that must run. */
export function goodHome(chance: Chance): HomeMaker {
  const [zone, position] = chance.pick(places)
  const made = new HomeMaker(zone, position)
  const rooms = Array.from({ length: 3 + chance.int(5) }, (_, index) => made.room(`room ${index}`))
  const lights = rooms.map((roomId, index) => made.device(`light ${index}`, roomId, { wall: chance.pick(['own', 'toggle', 'pulse']) }))
  const outside = Array.from({ length: 1 + chance.int(3) }, (_, index) => made.device(`outside ${index}`, null))
  made.pair('outside', outside, sun('sunset', chance.int(60) - 30), chance.is(0.5) ? sun('sunrise', chance.int(40) - 20) : clock(23, 30))
  made.rule(
    'bedtime',
    [{ is: 'household', does: 'goesToBed' }],
    lights.map((id) => off(id)),
  )
  for (const [index, roomId] of rooms.slice(0, 1 + chance.int(2)).entries()) {
    const eye = made.sensor(`eye ${index}`, 'motion', roomId)
    const light = made.device(`passage ${index}`, roomId, { wall: 'none' })
    made.rule(
      `passage ${index} on`,
      [{ is: 'motion', sensorId: eye, seen: true, forMinutes: 0 }],
      [on(light, { level: 60 })],
      [{ is: 'dark', dark: true }],
    )
    made.rule(`passage ${index} off`, [{ is: 'motion', sensorId: eye, seen: false, forMinutes: 20 + chance.int(20) }], [off(light)])
  }
  if (chance.is(0.7)) {
    const thermometer = made.sensor('warmth', 'temperature', rooms[0]!)
    const fan = made.device('fan', rooms[0]!, { wall: 'none' }, false)
    made.rule('fan on', [{ is: 'temperature', sensorId: thermometer, over: true, degrees: 23 }], [on(fan)])
    made.rule('fan off', [{ is: 'temperature', sensorId: thermometer, over: false, degrees: 21 }], [off(fan)])
  }
  if (chance.is(0.6)) {
    const button = made.sensor('button', 'button', rooms[0]!)
    made.rule('button', [{ is: 'button', sensorId: button }], [{ do: 'toggle', deviceId: lights[0]!, afterSeconds: 0 }])
  }
  if (chance.is(0.6))
    made.rule('morning', [{ is: 'household', does: 'getsUp' }], [on(lights.at(-1)!, { forSeconds: 1800 })], [{ is: 'dark', dark: true }])
  if (chance.is(0.5))
    made.routines.push({
      ...{ id: newId(), name: 'as if', runs: 'hub', paused: false, modes: [], kind: 'presence', deviceIds: lights.slice(0, 3) },
      ...{ from: sun('sunset'), to: clock(23) },
    })
  if (chance.is(0.5)) {
    const vault = made.device('vault fan', null, { mustRun: true, powerOn: 'on', autoOnMinutes: 30, wall: 'toggle' }, false)
    // A short rest does no harm.
    if (chance.is(0.5)) made.rule('quiet', [at(clock(20))], [off(vault), on(vault, { afterSeconds: 1200 })])
  }
  if (chance.is(0.4)) {
    const pump = made.device('pump', null, {}, false)
    made.routines.push({
      ...{ id: newId(), name: 'pump', runs: 'hub', paused: false, modes: [], kind: 'loop', deviceIds: [pump] },
      ...{ from: clock(6), to: clock(18), days: everyDay, onMinutes: 10, offMinutes: 50 },
    })
  }
  return made
}

type Fault = (made: HomeMaker, chance: Chance) => { kind: FindingKind; ids: string[] }
const faults: Record<string, Fault> = {
  'an on without its off'(made, chance) {
    const lamp = made.device('lamp', null)
    const eye = made.sensor('door eye', 'motion', made.rooms[0]!.id)
    const trigger = chance.pick<Trigger>([at(sun('sunset')), at(clock(6, 45)), { is: 'motion', sensorId: eye, seen: true, forMinutes: 0 }])
    return { kind: 'onWithoutOff', ids: [made.rule('lamp on', [trigger], [on(lamp)]), lamp] }
  },
  'an off on fewer days than its on'(made, chance) {
    const lamp = made.device('lamp', null)
    const days = chance.pick([[1, 2, 3, 4, 5], [1], [2, 4, 6]])
    return {
      kind: 'onWithoutOff',
      ids: [made.rule('lamp on', [at(sun('sunset'))], [on(lamp)]), made.rule('lamp off', [at(clock(23), days)], [off(lamp)]), lamp],
    }
  },
  'off by the clock over somebody'(made) {
    const lamp = made.device('desk lamp', made.rooms[1]!.id)
    made.devices.unshift(made.devices.pop()!)
    return { kind: 'putOut', ids: [made.rule('desk off', [at(clock(21, 30))], [off(lamp)]), lamp] }
  },
  'a motion light that waits too short'(made, chance) {
    const { id: roomId } = made.rooms[1]!
    const eye = made.sensor('short eye', 'motion', roomId)
    const lamp = made.device('short lamp', roomId, { wall: 'none' })
    return {
      kind: 'putOut',
      ids: [
        made.rule('short on', [{ is: 'motion', sensorId: eye, seen: true, forMinutes: 0 }], [on(lamp)], [{ is: 'dark', dark: true }]),
        made.rule('short off', [{ is: 'motion', sensorId: eye, seen: false, forMinutes: 1 + chance.int(4) }], [off(lamp)]),
        lamp,
      ],
    }
  },
  'two rules that undo each other'(made, chance) {
    const lamp = made.device('lamp', null)
    const moment = chance.pick([sun('sunset', 10), clock(19)])
    const second = chance.is(0.5) ? at(moment) : ({ is: 'device', deviceId: lamp, on: true, forMinutes: chance.int(2) } as const)
    return { kind: 'fight', ids: [made.rule('lamp on', [at(moment)], [on(lamp)]), made.rule('lamp off', [second], [off(lamp)]), lamp] }
  },
  'a thermostat without a gap'(made, chance) {
    const thermometer = made.sensor('second warmth', 'temperature', made.rooms[0]!.id)
    const fan = made.device('second fan', null, {}, false)
    const degrees = 21 + chance.int(3)
    return {
      kind: 'fight',
      ids: [
        made.rule('fan on', [{ is: 'temperature', sensorId: thermometer, over: true, degrees }], [on(fan)]),
        made.rule('fan off', [{ is: 'temperature', sensorId: thermometer, over: false, degrees }], [off(fan)]),
        fan,
      ],
    }
  },
  'rules that set each other off'(made, chance) {
    const [a, b] = [made.device('a', null), made.device('b', null)]
    const toggled = (deviceId: string): Action => ({ do: 'toggle', deviceId, afterSeconds: chance.is(0.3) ? 1 + chance.int(20) : 0 })
    const heard = (deviceId: string, state: boolean): Trigger => ({ is: 'device', deviceId, on: state, forMinutes: 0 })
    return {
      kind: 'loop',
      ids: [
        made.rule('start', [at(clock(18))], [on(a)]),
        made.rule('a moves b', [heard(a, true), heard(a, false)], [toggled(b)]),
        made.rule('b moves a', [heard(b, true), heard(b, false)], [toggled(a)]),
        ...[a, b],
      ],
    }
  },
  'a condition that never holds'(made, chance) {
    const lamp = made.device('lamp', null, { autoOffMinutes: 60 })
    const only = chance.pick<Condition>([
      { is: 'between', from: clock(6), to: clock(8) },
      { is: 'dark', dark: false },
    ])
    return { kind: 'neverRuns', ids: [made.rule('never', [at(clock(23, 50))], [on(lamp)], [only]), lamp] }
  },
  'what nobody ever does'(made) {
    const [lamp, other] = [made.device('lamp', null, { autoOffMinutes: 60 }), made.device('other lamp', null)]
    return {
      kind: 'neverRuns',
      ids: [made.rule('never', [{ is: 'device', deviceId: other, on: true, forMinutes: 5 }], [on(lamp)]), lamp, other],
    }
  },
  'in the hour that is left out'(made) {
    const lamp = made.device('lamp', null, { autoOffMinutes: 5 })
    const moment = made.zone === 'Europe/London' ? clock(1, 20) : clock(2, 20)
    return { kind: 'clockChange', ids: [made.rule('in the night', [at(moment)], [on(lamp)]), lamp] }
  },
  'an off that needs the internet'(made) {
    made.habits.internetOutages = 45
    const lamp = made.device('lamp', null)
    return { kind: 'offMissed', ids: [made.pair('by cloud', [lamp], clock(17), clock(22), everyDay, 'cloud'), lamp] }
  },
  'a wall switch that cuts it off'(made) {
    const lamp = made.device('cut lamp', made.rooms[0]!.id, { wall: 'cuts', powerOn: 'on' })
    // The first light of the room is the one that is reached for.
    made.devices.unshift(made.devices.pop()!)
    return { kind: 'atTheWall', ids: [made.pair('cut lamp', [lamp], clock(6, 30), clock(23, 40)), lamp] }
  },
  'a lever that has to be flipped twice'(made) {
    const lamp = made.device('edge lamp', made.rooms[0]!.id, { wall: 'edge' })
    made.devices.unshift(made.devices.pop()!)
    return { kind: 'twoFlips', ids: [made.rule('edge lamp', [{ is: 'household', does: 'goesToBed' }], [off(lamp)]), lamp] }
  },
  'more than the device knows'(made) {
    const lamp = made.device('lamp', null, { autoOffMinutes: 30 })
    const eye = made.sensor('far eye', 'motion', made.rooms[0]!.id)
    const when: Trigger[] = [{ is: 'motion', sensorId: eye, seen: true, forMinutes: 0 }]
    return { kind: 'notThere', ids: [made.rule('far', when, [on(lamp)], [], { runs: 'device' }), lamp] }
  },
  'a permission that was declined'(made) {
    made.habits.declined = ['location']
    const lamp = made.device('lamp', null, { autoOffMinutes: 30 })
    return { kind: 'declined', ids: [made.rule('comes home', [{ is: 'presence', someone: true }], [on(lamp)]), lamp] }
  },
  'a motor that stays off after an interruption'(made, chance) {
    const motor = made.device(
      'second vault',
      null,
      { mustRun: true, powerOn: chance.pick(['off', 'last']), autoOnMinutes: 30, wall: 'none' },
      false,
    )
    return { kind: 'mustRunOff', ids: [motor] }
  },
  'a motor that somebody silences'(made, chance) {
    const motor = made.device(
      'second vault',
      null,
      { mustRun: true, powerOn: 'on', wall: chance.pick(['toggle', 'own', 'edge', 'pulse']) },
      false,
    )
    return { kind: 'mustRunOff', ids: [motor] }
  },
  'a motor that a rule silences'(made) {
    const motor = made.device('second vault', null, { mustRun: true, powerOn: 'on', wall: 'none' }, false)
    return { kind: 'mustRunOff', ids: [made.pair('silent night', [motor], clock(7), clock(22)), motor] }
  },
  'a level at which it flickers'(made, chance) {
    const lamp = made.device('lamp', null, { autoOffMinutes: 30, lowestLevel: 8 })
    const eye = made.sensor('door eye', 'motion', made.rooms[0]!.id)
    const night = [on(lamp, { level: 1 + chance.int(7) })]
    return { kind: 'flickers', ids: [made.rule('night', [{ is: 'motion', sensorId: eye, seen: true, forMinutes: 0 }], night), lamp] }
  },
  'what is not there any more'(made) {
    const lamp = made.device('lamp', null, { autoOffMinutes: 30 })
    return { kind: 'gone', ids: [made.rule('old', [at(clock(18))], [on(lamp), on(newId())]), lamp] }
  },
}
export const faultNames = Object.keys(faults)

export function seededFault(seed: number): SeededFault {
  const chance = new Chance(seed)
  const made = goodHome(chance)
  const name = faultNames[seed % faultNames.length]!
  const { kind, ids } = faults[name]!(made, chance)
  return { name, kind, ids, home: made.home }
}

/** The home after somebody took a fix over. */
export function mended(home: AutomatedHome, fix: Fix): AutomatedHome {
  const { devices, routines } = home
  if (fix.change === 'behaviour')
    return { ...home, devices: devices.map((one) => (one.id === fix.deviceId ? { ...one, behaviour: fix.behaviour } : one)) }
  if (fix.change === 'drop') return { ...home, routines: routines.filter(({ id }) => id !== fix.routineId) }
  return { ...home, routines: routines.map((one) => (one.id === fix.routine.id ? fix.routine : one)) }
}
