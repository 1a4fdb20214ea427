import { DateTime } from 'luxon'
import type { AutomatedHome } from '../home'
import type { Action, Condition, Moment, Routine, Trigger } from '../model.schema'
import type { WorldEvent } from '../world'
import { sunOf, type Sun } from '../year'

/** Tried one after the other: the first of the nearest from above. */
function nearestStep(steps: number | null, level: number): number {
  if (steps === null) return level
  let best = 100
  for (let step = steps; step >= 1; step--) {
    const percent = (step * 100) / steps
    if (Math.abs(percent - level) < Math.abs(best - level)) best = percent
  }
  return best
}

/**
 * The same home, a minute at a time and as simply as it can be said, to compare the engine with: nothing is worked out ahead, every
 * minute asks the clock on the wall what it shows. Shares with the engine only the sun and the words of the model. Everything in
 * whole minutes; without simulated presence, which is chance.
 * @returns one line for each change: minute since the beginning, device, state, who
 */
export function stepThrough(home: AutomatedHome, fromDate: string, count: number, world: readonly WorldEvent[]): string[] {
  const { zone } = home
  const start = DateTime.fromISO(fromDate, { zone }).startOf('day').toSeconds()
  const lastDay = DateTime.fromISO(fromDate, { zone }).plus({ days: count - 1 })
  const end = lastDay.startOf('day').toSeconds() + 86_400
  const lines: string[] = []
  const states = new Map(
    home.devices.map((device) => [
      device.id,
      {
        device,
        on: device.behaviour.mustRun,
        level: 100,
        lever: device.behaviour.mustRun,
        fed: true,
        was: device.behaviour.mustRun,
        turn: 0,
      },
    ]),
  )
  const so = {
    mains: true,
    internet: true,
    mode: 'home' as string,
    someone: true,
    motion: {} as Record<string, { seen: boolean; since: number }>,
    warm: {} as Record<string, number>,
  }
  let at = start
  let outage = 0
  let asked = 0
  type Waiting = { due: number; nth: number; outage: number; then: () => void; forgets: boolean; gone?: () => void }
  let waiting: Waiting[] = []
  const after = (minutes: number, forgets: boolean, then: () => void) =>
    waiting.push({ due: at + minutes * 60, nth: asked++, outage, then, forgets })
  const listeners = home.routines.flatMap((routine) =>
    routine.kind === 'rule' && !routine.paused ? routine.when.map((when) => ({ routine, when, true: false, turn: 0 })) : [],
  )
  // Engine and stepper are told of the same moments in the same order.
  const fired: (() => void)[] = []
  let quiet = true

  const truth = (listener: (typeof listeners)[number], is: boolean) => {
    if (listener.true === is) return
    listener.true = is
    const turn = ++listener.turn
    if (!is || quiet) return
    const go = () => run(listener.routine, listener.routine.only, listener.routine.then)
    const wait = 'forMinutes' in listener.when ? listener.when.forMinutes : 0
    if (wait === 0) fired.push(go)
    else after(wait, listener.routine.runs !== 'cloud', () => void (listener.turn === turn && fired.push(go)))
  }
  const given = !home.habits.declined.includes('location')
  const hear = (kind: Trigger['is'], id: string | null, is: (when: never) => boolean) => {
    for (const listener of listeners) {
      const { when } = listener
      const about = 'deviceId' in when ? when.deviceId : 'sensorId' in when ? when.sensorId : null
      if (when.is === kind && about === id) truth(listener, is(when as never))
    }
  }
  const once = (kind: Trigger['is'], id: string | null, fits: (when: never) => boolean) => {
    for (const { routine, when } of listeners)
      if (when.is === kind && ('sensorId' in when ? when.sensorId : null) === id && fits(when as never))
        fired.push(() => run(routine, routine.only, routine.then))
  }
  const dead = (routine: Routine) => !so.mains || (routine.runs === 'hub' && !home.habits.hub) || (routine.runs === 'cloud' && !so.internet)
  const seenState = (id: string) => {
    const { device, on, level, fed } = states.get(id)!
    if (!so.mains || !fed) return
    hear('device', id, (when: Trigger & { is: 'device' }) => when.on === on)
    const watts = on ? (device.watts * level) / 100 : 0
    hear('power', id, (when: Trigger & { is: 'power' }) => (when.over ? watts > when.watts : watts < when.watts))
  }
  const ownTimer = (id: string) => {
    const state = states.get(id)!
    const { autoOnMinutes, autoOffMinutes } = state.device.behaviour
    const minutes = state.on ? autoOffMinutes : autoOnMinutes
    if (minutes === null) return
    const { turn, on } = state
    after(minutes, true, () => {
      if (state.turn === turn && so.mains && state.fed) put(id, !on, null, 'itself')
    })
  }
  function put(id: string, on: boolean, level: number | null, by: string) {
    const state = states.get(id)!
    const next = level === null ? state.level : nearestStep(state.device.behaviour.fanSteps, level)
    if (state.on === on && !(on && next !== state.level)) return
    const flipped = state.on !== on
    state.on = on
    if (on) state.level = next
    state.turn++
    lines.push(`${(at - start) / 60} ${id} ${on ? next : 'off'} ${by}`)
    if (flipped && so.mains && state.fed) ownTimer(id)
    seenState(id)
  }
  /** What the clock on the wall shows, and the dates around; worked out once for each minute. */
  let offset = 0
  const clockNow = () => {
    // Clocks are changed at full quarters of an hour.
    if (at % 900 === 0 || at === start) offset = DateTime.fromSeconds(at, { zone }).offset * 60
    const wall = at + offset
    const date = new Date(wall * 1000).toISOString().slice(0, 10)
    return { date, minute: Math.floor((wall % 86_400) / 60), weekday: dateOf(date).weekday, around: around(date) }
  }
  const known = new Map<string, { around: string[]; weekday: number; sun: Sun }>()
  const dateOf = (date: string) => {
    const before = known.get(date)
    if (before) return before
    const day = DateTime.fromISO(date, { zone })
    const found = {
      around: [-1, 0, 1].map((days) => day.plus({ days }).toISODate()!),
      weekday: day.weekday,
      sun: sunOf(day.startOf('day').toSeconds() + 43_200, home.position!),
    }
    known.set(date, found)
    return found
  }
  const around = (date: string) => dateOf(date).around.filter((one) => one >= fromDate && one <= lastDay.toISODate()!)
  let clock = clockNow()
  /** The moment as it comes on a local date; of a clock only whether it is shown now. */
  const comes = (moment: Moment, date: string): boolean => {
    if (moment.at === 'clock') return clock.date === date && clock.minute === moment.minute
    const sun = dateOf(date).sun[moment.at]
    return sun !== null && sun + moment.offset * 60 === at
  }
  const datesAround = () => clock.around
  const weekday = (date: string) => dateOf(date).weekday
  const dark = () => {
    const { sunrise, sunset, alwaysUp } = dateOf(clock.date).sun
    if (sunrise === null && sunset === null) return !alwaysUp
    return (sunrise !== null && at < sunrise) || (sunset !== null && at >= sunset)
  }
  /** Whether the window is open: asked of every minute since it last began. */
  const openSince = new Map<Condition, boolean>()
  const watchWindow = (condition: Condition & { is: 'between' }) => {
    const dates = datesAround()
    if (dates.some((date) => comes(condition.to, date))) openSince.set(condition, false)
    if (dates.some((date) => comes(condition.from, date))) openSince.set(condition, true)
  }
  const fits = (condition: Condition): boolean => {
    if (condition.is === 'between') return openSince.get(condition) ?? false
    if (condition.is === 'days') return condition.days.includes(clock.weekday)
    if (condition.is === 'dark') return dark() === condition.dark
    if (condition.is === 'device') return states.get(condition.deviceId)?.on === condition.on
    if (condition.is === 'mode') return condition.modes.some((mode) => mode === so.mode)
    if (condition.is === 'presence') return given && so.someone === condition.someone
    if (condition.is === 'motion') {
      const last = so.motion[condition.sensorId]
      return Boolean(last?.seen) === condition.seen && at - (last?.since ?? start - 86_400) >= condition.forMinutes * 60
    }
    const degrees = so.warm[condition.sensorId]
    return degrees !== undefined && (condition.over ? degrees > condition.degrees : degrees < condition.degrees)
  }
  const countdown: Record<string, number> = {}
  const perform = (routine: Routine, action: Action) => {
    if (action.do === 'tell') return
    const state = states.get(action.deviceId)
    if (!state || !so.mains || !state.fed) return
    const on = action.do === 'on' || (action.do === 'toggle' && !state.on)
    put(action.deviceId, on, action.do === 'on' ? action.level : null, routine.id)
    if (action.do !== 'on' || action.forSeconds === null) return
    const key = `${routine.id} ${action.deviceId}`
    const turn = (countdown[key] = (countdown[key] ?? 0) + 1)
    after(action.forSeconds / 60, routine.runs !== 'cloud', () => {
      if (countdown[key] === turn && !dead(routine)) perform(routine, { do: 'off', deviceId: action.deviceId, afterSeconds: 0 })
    })
  }
  function run(routine: Routine, only: readonly Condition[], then: readonly Action[], modes = routine.modes) {
    if (dead(routine) || (modes.length && !modes.some((mode) => mode === so.mode)) || !only.every(fits)) return
    for (const action of then) {
      const wait = action.do === 'tell' ? 0 : action.afterSeconds / 60
      if (wait) after(wait, routine.runs !== 'cloud', () => void (dead(routine) || perform(routine, action)))
      else perform(routine, action)
    }
  }
  const settle = () => {
    while (fired.length) fired.shift()!()
  }
  const hand = (id: string, on: boolean) => {
    const state = states.get(id)
    if (!state || !so.mains || state.on === on) return
    const { wall, powerOn } = state.device.behaviour
    if (wall === 'none') return
    if (wall === 'cuts') {
      if (!on) {
        state.was = true
        put(id, false, null, 'hand')
        state.fed = false
        return
      }
      state.fed = true
      if (powerOn === 'on' || (powerOn === 'last' && state.was)) put(id, true, null, 'hand')
      else ownTimer(id)
      return seenState(id)
    }
    put(id, on, null, 'hand')
  }
  const mains = (up: boolean) => {
    if (so.mains === up) return
    if (!up) {
      for (const state of states.values()) if (state.fed) state.was = state.on
      so.mains = false
      outage++
      for (const id of states.keys()) put(id, false, null, 'supply')
      return
    }
    so.mains = true
    for (const [id, { device, was, fed }] of states) {
      if (!fed) continue
      const { powerOn } = device.behaviour
      if (powerOn === 'on' || (powerOn === 'last' && was)) put(id, true, null, 'supply')
      else ownTimer(id)
      seenState(id)
    }
  }
  const happen = (event: WorldEvent) => {
    if (event.is === 'wants') hand(event.deviceId, event.on)
    else if (event.is === 'mains') mains(event.up)
    else if (event.is === 'internet') so.internet = event.up
    else if (event.is === 'motion') {
      if (so.motion[event.sensorId]?.seen !== event.seen) so.motion[event.sensorId] = { seen: event.seen, since: at }
      hear('motion', event.sensorId, (when: Trigger & { is: 'motion' }) => when.seen === event.seen)
    } else if (event.is === 'temperature') {
      so.warm[event.sensorId] = event.degrees
      hear('temperature', event.sensorId, (when: Trigger & { is: 'temperature' }) =>
        when.over ? event.degrees > when.degrees : event.degrees < when.degrees,
      )
    } else if (event.is === 'weather') once('weather', null, (when: Trigger & { is: 'weather' }) => when.turns === event.turns)
    else if (event.is === 'household') once('household', null, (when: Trigger & { is: 'household' }) => when.does === event.does)
    else if (event.is === 'button') once('button', event.sensorId, () => true)
    else if (event.is === 'mode') {
      so.mode = event.mode
      hear('mode', null, (when: Trigger & { is: 'mode' }) => when.mode === event.mode)
    } else if (event.is === 'presence') {
      so.someone = event.someone
      if (given) hear('presence', null, (when: Trigger & { is: 'presence' }) => when.someone === event.someone)
    }
  }

  for (const id of states.keys()) seenState(id)
  hear('presence', null, (when: Trigger & { is: 'presence' }) => when.someone)
  hear('mode', null, (when: Trigger & { is: 'mode' }) => when.mode === 'home')
  quiet = false
  const windows = home.routines.flatMap((routine) =>
    routine.kind === 'rule' ? routine.only.filter((one): one is Condition & { is: 'between' } => one.is === 'between') : [],
  )
  /** A pair or a loop that was begun: when it began, and of a loop when it last changed. */
  const begun = new Map<string, { routine: Routine; since: number; date: string }[]>()
  const clockOf = (routine: Routine) => {
    if (routine.paused || routine.kind === 'presence') return
    if (routine.kind === 'rule') {
      for (const when of routine.when)
        if (when.is === 'time')
          for (const date of datesAround())
            if ((when.days.length ? when.days.includes(weekday(date)) : when.date === date) && comes(when.moment, date)) {
              run(routine, routine.only, routine.then)
              settle()
            }
      return
    }
    const [first, last] = routine.kind === 'pair' ? [routine.on, routine.off] : [routine.from, routine.to]
    const running = begun.get(routine.id) ?? []
    const step = (then: readonly Action[], modes: Routine['modes']) => {
      run(routine, [], then, modes)
      settle()
    }
    const on = routine.deviceIds.map((deviceId): Action => ({
      ...{ do: 'on', deviceId, afterSeconds: 0, forSeconds: null },
      level: routine.kind === 'pair' ? routine.level : null,
    }))
    const off = routine.deviceIds.map((deviceId): Action => ({ do: 'off', deviceId, afterSeconds: 0 }))
    const ends = datesAround().some((date) => comes(last, date))
    for (const one of [...running]) {
      const isOver = ends && at > one.since
      if (routine.kind === 'loop') {
        const minutes = (at - one.since) / 60
        const round = minutes % (routine.onMinutes + routine.offMinutes)
        if (minutes > 0 && round === routine.onMinutes) step(off, [])
        else if (isOver && round > 0 && round < routine.onMinutes) step(off, [])
        else if (minutes > 0 && round === 0 && !isOver) step(on, routine.modes)
      } else if (isOver) step(off, [])
      if (isOver) running.splice(running.indexOf(one), 1)
    }
    for (const date of datesAround()) {
      const thatDay = routine.days.length ? routine.days.includes(weekday(date)) : routine.kind === 'pair' && routine.date === date
      if (!thatDay || !comes(first, date)) continue
      step(on, routine.modes)
      running.push({ routine, since: at, date })
    }
    begun.set(routine.id, running)
  }

  let next = 0
  while (world[next] && world[next]!.at < start) next++
  for (; at < end; at += 60) {
    clock = clockNow()
    for (const condition of windows) watchWindow(condition)
    for (; next < world.length && world[next]!.at === at; next++) {
      happen(world[next]!)
      settle()
    }
    for (;;) {
      const due = waiting.filter((one) => one.due === at).sort((a, b) => a.nth - b.nth)[0]
      if (!due) break
      waiting = waiting.filter((one) => one !== due)
      if (!due.forgets || due.outage === outage) due.then()
      settle()
    }
    for (const routine of home.routines) clockOf(routine)
  }
  return lines
}
