import TinyQueue from 'tinyqueue'
import { stepOf, type AutomatedHome } from './home'
import type { Action, Condition, Trigger } from './model.schema'
import { programOf, type Heard, type Program } from './program'
import type { Mode, RunPlace } from './words'
import type { WorldEvent } from './world'
import { instantsOf, isDark, type HomeDay } from './year'

/** Who changed a device, where it was no routine: somebody’s hand, the supply, or the device by itself. */
export const byHand = -1
export const bySupply = -2
export const byItself = -3

export interface Change {
  at: number
  device: number
  on: boolean
  level: number
  /** Index of the routine, or one of the above. */
  by: number
}
export type Down = 'internet' | 'mains' | 'hub'
export interface Played {
  from: number
  to: number
  /** It switched so much that it was played no further than to `to`. */
  cutShort: boolean
  changes: Change[]
  /** By routine: how often it did something. */
  ran: number[]
  /** By routine: how often each of its conditions stood against it. */
  stoppedBy: number[][]
  /** Not in one of its modes. */
  stoppedByMode: number[]
  /** It should have run, and what it runs in was down. */
  missed: { at: number; routine: number; why: Down }[]
  /** It ran, and the device could not be reached: its wall switch was off. */
  lost: { at: number; routine: number; device: number }[]
  /** It put a light out over somebody, in the dark. */
  putOut: { at: number; routine: number; device: number }[]
  /** It did not come to rest: routines, or a device by itself. */
  loops: { at: number; routines: number[]; device?: number }[]
  /** The lever had to be moved twice. */
  twice: { at: number; device: number }[]
}

/** So many reactions to one thing are an endless loop; so many runs in one hour are one, too. */
const [mostAtOnce, mostInHour] = [100, 120]
/** So many changes in all are kept: forty a day of each of sixty devices. A home that switches more is played until then. */
const mostChanges = 1_000_000
const hour = 3600

/** One shape for all, for there are many: `held` of what listens, `acts` and `ends` of a routine, `itself` of a device. */
interface Timer {
  at: number
  order: number
  epoch: number
  is: 'held' | 'acts' | 'ends' | 'itself'
  /** What listens, or the routine. */
  of: number
  device: number
  token: number
  /** Of `itself` what it becomes, of the others whether nobody asked for it. */
  on: boolean
  action: Action | null
}

/**
 * Plays the routines of a home through days, against what happens there by itself. At one instant: what happens, then what was to
 * happen after a while, then the clock, each with everything that follows from it. Reactions to one thing are in the order in
 * which they were caused, and rules in that of their list. What runs in the hub or a device forgets what it meant to do when the
 * supply fails; a server remembers, and does not reach the home while its line is down.
 * @param world sorted by time
 */
export function playDays(home: AutomatedHome, days: readonly HomeDay[], world: readonly WorldEvent[], program?: Program): Played {
  const { timed, heard } = program ?? programOf(home, days)
  const { devices, routines, habits } = home
  const indexOf = new Map(devices.map(({ id }, index) => [id, index]))
  const from = days[0]!.midnight
  const to = days.at(-1)!.midnight + 86_400
  const played: Played = {
    ...{ from, to, cutShort: false, changes: [], missed: [], lost: [], putOut: [], loops: [], twice: [] },
    ran: routines.map(() => 0),
    stoppedBy: routines.map((routine) => (routine.kind === 'rule' ? routine.only.map(() => 0) : [])),
    stoppedByMode: routines.map(() => 0),
  }

  // What is so now.
  let now = from
  let dayIndex = 0
  let [internet, mains] = [true, true]
  let epoch = 0
  let mode: Mode = 'home'
  let someone = true
  const on = devices.map(({ behaviour }) => behaviour.mustRun)
  const level = devices.map(() => 100)
  const lever = [...on]
  const supplied = devices.map(() => true)
  const beforeCut = [...on]
  const changed = devices.map(() => 0)
  const seen = new Map<string, { is: boolean; since: number }>()
  const degrees = new Map<string, number>()
  const inside = new Map<string, number>()
  const timers = new TinyQueue<Timer>([], (a, b) => a.at - b.at || a.order - b.order)
  let order = 0
  const later = (seconds: number, is: Timer['is'], of: number, device: number, token: number, on: boolean, action: Action | null) =>
    timers.push({ at: now + seconds, order: order++, epoch, is, of, device, token, on, action })

  // What listens, by what it listens to.
  const matches = heard.map(() => false)
  /** Since when it is true, which turn it was in the order of things, and whether a timer looks after it already. */
  const since = heard.map(() => ({ at: 0, order: 0, epoch: 0 }))
  const watched = heard.map(() => false)
  const listening = new Map<string, number[]>()
  heard.forEach(({ trigger }, index) => {
    const key = keyOf(trigger)
    listening.set(key, [...(listening.get(key) ?? []), index])
  })
  const locationGiven = !habits.declined.includes('location')
  const reactions: number[] = []
  /** A trigger is true from now on, or not: it fires when it becomes true, or when it has been for its time. */
  const hear = (index: number, is: boolean) => {
    if (matches[index] === is) return
    matches[index] = is
    if (!is) return
    const { trigger } = heard[index]!
    const minutes = 'forMinutes' in trigger ? trigger.forMinutes : 0
    if (!minutes) return void reactions.push(index)
    // Somebody is seen a hundred times before a room has been empty for its time: one timer looks again when it is due.
    since[index] = { at: now, order: order++, epoch }
    if (watched[index]) return
    watched[index] = true
    timers.push({ ...noTimer, at: now + minutes * 60, order: since[index].order, epoch, is: 'held', of: index })
  }
  const heardAt = (key: string, is: (trigger: never) => boolean) => {
    for (const index of listening.get(key) ?? []) hear(index, is(heard[index]!.trigger as never))
  }
  /** What is over in the same moment fires each time. */
  const happens = (key: string, fits: (trigger: never) => boolean) => {
    for (const index of listening.get(key) ?? []) if (fits(heard[index]!.trigger as never)) reactions.push(index)
  }

  const up = (place: RunPlace): Down | null => {
    if (!mains) return 'mains'
    if (place === 'hub' && !habits.hub) return 'hub'
    return place === 'cloud' && !internet ? 'internet' : null
  }
  const reachable = (device: number) => mains && supplied[device]!
  const tellState = (device: number) => {
    if (!reachable(device)) return
    const { id, watts } = devices[device]!
    heardAt(`device ${id}`, (trigger: Trigger & { is: 'device' }) => trigger.on === on[device])
    const takes = on[device] ? (watts * level[device]!) / 100 : 0
    heardAt(`power ${id}`, (trigger: Trigger & { is: 'power' }) => (trigger.over ? takes > trigger.watts : takes < trigger.watts))
  }
  const startItself = (device: number) => {
    const { autoOnMinutes, autoOffMinutes } = devices[device]!.behaviour
    const minutes = on[device] ? autoOffMinutes : autoOnMinutes
    if (minutes !== null) later(Math.max(1, Math.round(minutes * 60)), 'itself', -1, device, changed[device]!, !on[device], null)
  }
  const change = (device: number, to: boolean, toLevel: number | null, by: number) => {
    const next = toLevel === null ? level[device]! : stepOf(devices[device]!.behaviour.fanSteps, toLevel)
    if (on[device] === to && (!to || level[device] === next)) return
    const switched = on[device] !== to
    on[device] = to
    if (to) level[device] = next
    changed[device]!++
    played.changes.push({ at: now, device, on: to, level: to ? next : 0, by })
    if (switched && reachable(device)) startItself(device)
    tellState(device)
  }

  const windows = new Map<Condition, (readonly [number, number] | null)[]>()
  const windowOf = (condition: Condition & { is: 'between' }, index: number) => {
    if (!windows.has(condition)) windows.set(condition, [])
    const known = windows.get(condition)!
    if (known[index] === undefined) {
      const begins = days[index] ? instantsOf(days[index], condition.from)[0] : undefined
      const ends = [days[index], days[index + 1]].flatMap((day) => (day ? instantsOf(day, condition.to) : []))
      known[index] = begins === undefined ? null : [begins, ends.find((at) => at > begins) ?? begins + 86_400]
    }
    return known[index]!
  }
  const holds = (condition: Condition): boolean => {
    switch (condition.is) {
      case 'between':
        return [dayIndex - 1, dayIndex].some((index) => {
          const window = index < 0 ? null : windowOf(condition, index)
          return window !== null && now >= window[0] && now < window[1]
        })
      case 'days':
        return condition.days.includes(days[dayIndex]!.weekday)
      case 'dark':
        return isDark(days[dayIndex]!, now) === condition.dark
      case 'device': {
        const device = indexOf.get(condition.deviceId)
        return device !== undefined && on[device] === condition.on
      }
      case 'mode':
        return condition.modes.includes(mode)
      case 'presence':
        return locationGiven && someone === condition.someone
      case 'motion': {
        const known = seen.get(condition.sensorId)
        return (known?.is ?? false) === condition.seen && now - (known?.since ?? from - 86_400) >= condition.forMinutes * 60
      }
      case 'temperature': {
        const known = degrees.get(condition.sensorId)
        return known !== undefined && (condition.over ? known > condition.degrees : known < condition.degrees)
      }
    }
  }

  const countdowns = new Map<string, number>()
  const act = (routine: number, action: Action, spontaneous: boolean) => {
    if (action.do === 'tell') return
    const device = indexOf.get(action.deviceId)
    if (device === undefined) return
    if (!reachable(device)) {
      if (mains) played.lost.push({ at: now, routine, device })
      return
    }
    const turnsOn = action.do === 'toggle' ? !on[device] : action.do === 'on'
    if (!turnsOn) {
      const { light, roomId } = devices[device]!
      if (on[device] && light && spontaneous && (inside.get(roomId ?? '') ?? 0) > 0 && isDark(days[dayIndex]!, now))
        played.putOut.push({ at: now, routine, device })
    }
    change(device, turnsOn, action.do === 'on' ? action.level : null, routine)
    if (action.do === 'on' && action.forSeconds !== null) {
      const key = `${routine} ${device}`
      const token = (countdowns.get(key) ?? 0) + 1
      countdowns.set(key, token)
      later(action.forSeconds, 'ends', routine, device, token, spontaneous, null)
    }
  }
  const tallies = (all: readonly unknown[]) => all.map(() => ({ hour: 0, count: 0, mutedUntil: 0 }))
  const [ofRoutine, ofDevice] = [tallies(routines), tallies(devices)]
  /** @returns whether it may go on: what does not come to rest is left out until tomorrow. */
  const may = (tally: (typeof ofRoutine)[number], loop: Omit<Played['loops'][number], 'at'>): boolean => {
    if (now < tally.mutedUntil) return false
    if (Math.floor(now / hour) !== tally.hour) Object.assign(tally, { hour: Math.floor(now / hour), count: 0 })
    if (++tally.count <= mostInHour) return true
    tally.mutedUntil = now + 24 * hour
    played.loops.push({ at: now, ...loop })
    return false
  }
  const counts = (routine: number): boolean => may(ofRoutine[routine]!, { routines: [routine] })
  const fire = (
    routine: number,
    { does, only, modes }: { does: readonly Action[]; only: readonly Condition[]; modes: readonly Mode[] },
    spontaneous: boolean,
  ) => {
    const down = up(routines[routine]!.runs)
    if (down) return void played.missed.push({ at: now, routine, why: down })
    if (modes.length && !modes.includes(mode)) return void played.stoppedByMode[routine]!++
    const against = only.findIndex((condition) => !holds(condition))
    if (against >= 0) return void played.stoppedBy[routine]![against]!++
    if (!counts(routine)) return
    played.ran[routine]!++
    for (const action of does) {
      const wait = action.do === 'tell' ? 0 : action.afterSeconds
      if (wait) later(wait, 'acts', routine, -1, 0, spontaneous, action)
      else act(routine, action, spontaneous)
    }
  }
  const react = (index: number) => {
    const { routine, trigger, rule } = heard[index]!
    fire(routine, { does: rule.then, only: rule.only, modes: rule.modes }, !asked(trigger))
  }
  const settle = () => {
    if (!reactions.length) return
    let count = 0
    const caused = new Set<number>()
    for (let next = reactions.shift(); next !== undefined; next = reactions.shift()) {
      if (++count > mostAtOnce) {
        played.loops.push({ at: now, routines: [...caused].sort((a, b) => a - b) })
        reactions.length = 0
        return
      }
      // The last ones are those that go round.
      if (count > mostAtOnce / 2) caused.add(heard[next]!.routine)
      react(next)
    }
  }

  const wants = (device: number, want: boolean) => {
    const { wall, powerOn } = devices[device]!.behaviour
    if (!mains || wall === 'none' || on[device] === want) return
    if (wall === 'edge') {
      // The first flip does what the lever says, whatever the app said meanwhile.
      lever[device] = !lever[device]
      if (lever[device] !== want) {
        lever[device] = want
        played.twice.push({ at: now, device })
      }
      return change(device, want, null, byHand)
    }
    if (wall !== 'cuts') return change(device, want, null, byHand)
    if (!want) {
      beforeCut[device] = true
      change(device, false, null, byHand)
      supplied[device] = false
      return
    }
    if (supplied[device]) played.twice.push({ at: now, device })
    supplied[device] = true
    const comes = powerOn === 'on' || (powerOn === 'last' && beforeCut[device]!)
    if (comes) change(device, true, null, byHand)
    else startItself(device)
    tellState(device)
  }
  const happen = (event: WorldEvent) => {
    switch (event.is) {
      case 'moves':
        if (event.was) inside.set(event.was, (inside.get(event.was) ?? 0) - 1)
        if (event.roomId) inside.set(event.roomId, (inside.get(event.roomId) ?? 0) + 1)
        return
      case 'wants': {
        const device = indexOf.get(event.deviceId)
        return device === undefined ? undefined : wants(device, event.on)
      }
      case 'motion':
        if (seen.get(event.sensorId)?.is !== event.seen) seen.set(event.sensorId, { is: event.seen, since: now })
        return heardAt(`motion ${event.sensorId}`, (trigger: Trigger & { is: 'motion' }) => trigger.seen === event.seen)
      case 'temperature':
        degrees.set(event.sensorId, event.degrees)
        return heardAt(`temperature ${event.sensorId}`, (trigger: Trigger & { is: 'temperature' }) =>
          trigger.over ? event.degrees > trigger.degrees : event.degrees < trigger.degrees,
        )
      case 'weather':
        return happens('weather', (trigger: Trigger & { is: 'weather' }) => trigger.turns === event.turns)
      case 'household':
        return happens('household', (trigger: Trigger & { is: 'household' }) => trigger.does === event.does)
      case 'button':
        return happens(`button ${event.sensorId}`, () => true)
      case 'presence':
        someone = event.someone
        return locationGiven ? heardAt('presence', (trigger: Trigger & { is: 'presence' }) => trigger.someone === someone) : undefined
      case 'mode':
        mode = event.mode
        return heardAt('mode', (trigger: Trigger & { is: 'mode' }) => trigger.mode === mode)
      case 'internet':
        internet = event.up
        return
      case 'mains':
        return supply(event.up)
    }
  }
  const supply = (comes: boolean) => {
    if (mains === comes) return
    if (!comes) {
      on.forEach((is, device) => (beforeCut[device] = supplied[device] ? is : beforeCut[device]!))
      mains = false
      epoch++
      on.forEach((_, device) => change(device, false, null, bySupply))
      return
    }
    mains = true
    devices.forEach(({ behaviour: { powerOn } }, device) => {
      if (!supplied[device]) return
      if (powerOn === 'on' || (powerOn === 'last' && beforeCut[device]!)) change(device, true, null, bySupply)
      else startItself(device)
      tellState(device)
    })
  }
  const due = (timer: Timer) => {
    const { is, of, device, action } = timer
    if (is === 'held') {
      watched[of] = false
      if (!matches[of]) return
      const { trigger } = heard[of]!
      const held = since[of]!
      const at = held.at + ('forMinutes' in trigger ? trigger.forMinutes : 0) * 60
      if (at > now || (at === now && held.order > timer.order)) {
        watched[of] = true
        return void timers.push({ ...timer, ...held, at })
      }
    }
    // The supply failed meanwhile: hubs and devices begin anew, a server goes on.
    const routine = is === 'held' ? heard[of]!.routine : of
    const place = is === 'itself' ? 'device' : routines[routine]!.runs
    const forgot = place !== 'cloud' && timer.epoch !== epoch
    if (is === 'held') {
      if (!forgot) reactions.push(of)
    } else if (is === 'itself') {
      if (!forgot && changed[device] === timer.token && reachable(device) && may(ofDevice[device]!, { routines: [], device }))
        change(device, timer.on, null, byItself)
    } else {
      if (is === 'ends' && countdowns.get(`${routine} ${device}`) !== timer.token) return
      const down = forgot ? 'mains' : up(place)
      if (down) return void played.missed.push({ at: now, routine, why: down })
      if (!counts(routine)) return
      act(routine, action ?? { do: 'off', deviceId: devices[device]!.id, afterSeconds: 0 }, timer.on)
    }
  }

  // How it stands before anything happens: what is true already is nothing that has become true.
  devices.forEach((_, device) => tellState(device))
  heardAt('presence', (trigger: Trigger & { is: 'presence' }) => trigger.someone)
  heardAt('mode', (trigger: Trigger & { is: 'mode' }) => trigger.mode === 'home')
  reactions.length = 0
  while (timers.length) timers.pop()
  watched.fill(false)

  let [nextWorld, nextTimed] = [0, 0]
  for (;;) {
    const [happening, waiting, clock] = [world[nextWorld]?.at ?? Infinity, timers.peek()?.at ?? Infinity, timed[nextTimed]?.at ?? Infinity]
    now = Math.min(happening, waiting, clock)
    if (now >= to) return played
    if (played.changes.length >= mostChanges) return { ...played, to: now, cutShort: true }
    while (dayIndex + 1 < days.length && now >= days[dayIndex + 1]!.midnight) dayIndex++
    if (happening === now) happen(world[nextWorld++]!)
    else if (waiting === now) due(timers.pop()!)
    else {
      const one = timed[nextTimed++]!
      fire(one.routine, one, true)
    }
    settle()
  }
}

const noTimer: Timer = { at: 0, order: 0, epoch: 0, is: 'held', of: -1, device: -1, token: 0, on: false, action: null }

/** Somebody meant it: no light goes out over them unasked. */
const asked = (trigger: Trigger): boolean => trigger.is === 'button' || trigger.is === 'household' || trigger.is === 'mode'

function keyOf(trigger: Heard['trigger']): string {
  if ('deviceId' in trigger) return `${trigger.is} ${trigger.deviceId}`
  return 'sensorId' in trigger ? `${trigger.is} ${trigger.sensorId}` : trigger.is
}
