import { Chance } from '../chance'
import type { AutomatedHome } from './home'
import type { Action, Condition, Moment, Routine, Rule, Trigger } from './model.schema'
import type { Mode, RunPlace } from './words'
import { instantsOf, type HomeDay } from './year'

/** One thing that the clock does, known before the year begins. */
export interface Timed {
  at: number
  routine: number
  does: readonly Action[]
  only: readonly Condition[]
  modes: readonly Mode[]
  /** The clock shows this minute twice that day, and this is the second time. */
  again: boolean
}
/** A rule that listens. */
export interface Heard {
  routine: number
  runs: RunPlace
  trigger: Trigger
  rule: Rule
}
/** What the clock could not do: there was no such minute that day, or the sun did not rise or set. */
export interface Skipped {
  routine: number
  date: string
  why: 'noSuchMinute' | 'noSun'
}
export interface Program {
  timed: Timed[]
  heard: Heard[]
  skipped: Skipped[]
  /** More than can be held: it ends somewhere within the days, and fewer days have to be played. */
  full: boolean
}
/** A clock that does more than this in the days that are played is not worked out to their end: a loop of a minute does half of it a year. */
const mostTimed = 1_000_000

const always: readonly Mode[] = []
const unconditional: readonly Condition[] = []
const awayOnly: readonly Mode[] = ['away']
type Switching = Exclude<Action, { do: 'tell' }>
const on = (deviceIds: readonly string[], level: number | null): Switching[] =>
  deviceIds.map((deviceId) => ({ do: 'on', deviceId, level, afterSeconds: 0, forSeconds: null }))
const off = (deviceIds: readonly string[]): Switching[] => deviceIds.map((deviceId) => ({ do: 'off', deviceId, afterSeconds: 0 }))
/** Simulated presence: so long is a light on, and off again, minutes. Nobody’s habit, and no two days the same. */
const [shortest, longest] = [15, 90]

/** What goes by the clock or the sun: it begins on a day, and ends at the next time of its end. */
export type Clocked = Exclude<Routine, Rule>
export const momentsOf = (routine: Clocked): readonly [Moment, Moment] =>
  routine.kind === 'pair' ? [routine.on, routine.off] : [routine.from, routine.to]
/** Whether it begins on that day. */
export const isDue = (routine: Clocked, day: HomeDay): boolean =>
  routine.kind === 'presence' || runsOn({ days: routine.days, date: routine.kind === 'pair' ? routine.date : null }, day)
/** The next time a moment comes, from a day on: before its beginning on the clock is the next day, and where the sun stays down, later. */
export function nextAfter(moment: Moment, days: readonly HomeDay[], dayIndex: number, at: number): number | null {
  for (let next = dayIndex; next < days.length; next++) {
    const found = instantsOf(days[next]!, moment).find((one) => one > at)
    if (found !== undefined) return found
  }
  return null
}
/** What a routine does to devices. */
export function actionsOf(routine: Routine): Switching[] {
  if (routine.kind === 'rule') return routine.then.filter((one) => one.do !== 'tell')
  return [...on(routine.deviceIds, routine.kind === 'pair' ? routine.level : null), ...off(routine.deviceIds)]
}

/**
 * What the routines of a home are, in two kinds of thing: what the clock does, worked out for all of its days, and what listens.
 * Paused routines do nothing.
 */
export function programOf({ routines }: Pick<AutomatedHome, 'routines'>, days: readonly HomeDay[]): Program {
  const timed: Timed[] = []
  const heard: Heard[] = []
  const skipped: Skipped[] = []
  /** What ends after the last day goes on until it is over. */
  const horizon = (days.at(-1)?.midnight ?? 0) + 2 * 86_400
  routines.forEach((routine, index) => {
    if (routine.paused || timed.length > mostTimed) return
    if (routine.kind === 'rule') {
      for (const trigger of routine.when) {
        if (trigger.is !== 'time') {
          heard.push({ routine: index, runs: routine.runs, trigger, rule: routine })
          continue
        }
        for (const day of days) {
          if (!runsOn(trigger, day)) continue
          const instants = instantsOf(day, trigger.moment)
          if (!instants.length) skipped.push(notThat(index, day, trigger.moment))
          instants.forEach((at, turn) =>
            timed.push({ at, routine: index, does: routine.then, only: routine.only, modes: routine.modes, again: turn > 0 }),
          )
        }
      }
      return
    }
    days.forEach((day, dayIndex) => {
      if (!isDue(routine, day) || timed.length > mostTimed) return
      const [first, last] = momentsOf(routine)
      const begins = instantsOf(day, first)
      if (!begins.length) return void skipped.push(notThat(index, day, first))
      const endAfter = (at: number): number | null => {
        const end = nextAfter(last, days, dayIndex, at)
        if (end !== null && end - at > 86_400 + 3600) skipped.push(notThat(index, days[dayIndex + 1] ?? day, last))
        return end
      }
      const spans = begins.map((at) => [at, endAfter(at)] as const)
      const add = (at: number, does: readonly Action[], modes: readonly Mode[], again = false) =>
        timed.push({ at, routine: index, does, only: unconditional, modes, again })
      if (routine.kind === 'pair') {
        const [begin, finish] = [on(routine.deviceIds, routine.level), off(routine.deviceIds)]
        spans.forEach(([at], turn) => add(at, begin, routine.modes, turn > 0))
        // One thing with an on and an off: what was begun is ended whatever the mode is then.
        for (const end of new Set(spans.map(([, one]) => one))) if (end !== null) add(end, finish, always)
        return
      }
      if (routine.kind === 'loop') {
        const round = (routine.onMinutes + routine.offMinutes) * 60
        const [begin, finish] = [on(routine.deviceIds, null), off(routine.deviceIds)]
        for (const [start, end] of spans)
          for (let at = start; at < (end ?? horizon); at += round) {
            add(at, begin, routine.modes)
            add(Math.min(at + routine.onMinutes * 60, end ?? horizon), finish, always)
          }
        return
      }
      presence(routine, index, day, begins[0]!, spans[0]![1] ?? horizon, timed)
    })
  })
  // Array.sort keeps the order of what is equal: at one instant the routines act in the order of their list.
  timed.sort((a, b) => a.at - b.at || a.routine - b.routine)
  return { timed, heard, skipped, full: timed.length > mostTimed }
}

const runsOn = ({ days, date }: { days: readonly number[]; date: string | null }, day: HomeDay) =>
  days.length ? days.includes(day.weekday) : date === day.date
const notThat = (routine: number, day: HomeDay, moment: Moment): Skipped => ({
  routine,
  date: day.date,
  why: moment.at === 'clock' ? 'noSuchMinute' : 'noSun',
})

/** Lights that come and go as if somebody were there: by chance, of the day and the routine, so that a day can be played again. */
function presence(
  { id, deviceIds }: Routine & { kind: 'presence' },
  index: number,
  day: HomeDay,
  from: number,
  to: number,
  timed: Timed[],
) {
  const seed = [...`${id} ${day.date}`].reduce((sum, letter) => (Math.imul(sum, 31) + letter.charCodeAt(0)) | 0, 7)
  const chance = new Chance(seed >>> 0)
  const span = () => (shortest + chance.int(longest - shortest + 1)) * 60
  for (const deviceId of deviceIds) {
    for (let at = from + chance.int(longest) * 60; at < to;) {
      const rests = Math.min(at + span(), to)
      timed.push({ at, routine: index, does: on([deviceId], null), only: unconditional, modes: awayOnly, again: false })
      timed.push({ at: rests, routine: index, does: off([deviceId]), only: unconditional, modes: awayOnly, again: false })
      at = rests + span()
    }
  }
}
