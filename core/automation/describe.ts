import type { AutomatedHome } from './home'
import type { Action, Condition, Moment, Routine, Trigger } from './model.schema'
import { clockOfDay, dateIn, numberIn, type LocaleId } from '../units/region'
import type { SchemeId } from '../units/scheme'
import { modeWords } from './words'

/** How a branch writes times, days and degrees. */
export interface Telling {
  /** Of minutes after midnight. */
  clock: (minute: number) => string
  /** Of a calendar date. */
  date: (date: string) => string
  /** Of degrees Celsius. */
  degrees: (celsius: number) => string
}
/** A time of day as files have it: 22:05. */
export const clockWords = (minuteOfDay: number): string =>
  `${String(Math.floor(minuteOfDay / 60)).padStart(2, '0')}:${String(minuteOfDay % 60).padStart(2, '0')}`
/** Minutes after midnight of such a time. */
export function minuteOfDay(clock: string): number {
  const [hours, minutes] = clock.split(':').map(Number)
  return hours! * 60 + minutes!
}
/** As files have it. */
export const plainTelling: Telling = { clock: clockWords, date: (date) => date, degrees: (celsius) => `${celsius} °C` }
/** As a branch writes it: degrees Fahrenheit where the supply is that of North America. */
export const tellingIn = (schemeId: SchemeId, locale: LocaleId): Telling => ({
  clock: (minute) => clockOfDay(minute, locale),
  date: (date) => dateIn(date, locale),
  degrees: (celsius) =>
    schemeId === 'na120' ? `${numberIn(Math.round(fahrenheit(celsius) * 10) / 10, locale)} °F` : `${numberIn(celsius, locale)} °C`,
})
export const fahrenheit = (celsius: number): number => (celsius * 9) / 5 + 32
export const celsiusOf = (degreesF: number): number => ((degreesF - 32) * 5) / 9
type Named = Pick<AutomatedHome, 'devices' | 'sensors'>

const dayWords = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
/** "every day", "Mon to Fri", "Sat, Sun", or the one date. */
export function daysSaid(days: readonly number[], date: string | null, { date: dateSaid }: Telling): string {
  const sorted = [...new Set(days)].sort((a, b) => a - b)
  if (!sorted.length) return date ? `once, on ${dateSaid(date)}` : 'on no day'
  if (sorted.length === 7) return 'every day'
  const inRow = sorted.length > 2 && sorted.at(-1)! - sorted[0]! === sorted.length - 1
  return inRow ? `${dayWords[sorted[0]! - 1]} to ${dayWords[sorted.at(-1)! - 1]}` : sorted.map((day) => dayWords[day - 1]).join(', ')
}
export function momentSaid(moment: Moment, { clock }: Telling): string {
  if (moment.at === 'clock') return clock(moment.minute)
  if (moment.offset === 0) return moment.at
  return `${Math.abs(moment.offset)} min ${moment.offset < 0 ? 'before' : 'after'} ${moment.at}`
}
/** A list as one says it: "a, b and c". */
const listed = (words: readonly string[], last = 'and') =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}`
export const nameIn = ({ devices, sensors }: Named, id: string): string =>
  [...devices, ...sensors].find((one) => one.id === id)?.name ?? 'something that is gone'
const wait = (minutes: number) => (minutes ? ` for ${minutes} min` : '')
const seconds = (count: number) => (count % 60 === 0 ? `${count / 60} min` : `${count} s`)

export function triggerSaid(trigger: Trigger, home: Named, telling: Telling): string {
  switch (trigger.is) {
    case 'time':
      return `it is ${momentSaid(trigger.moment, telling)}, ${daysSaid(trigger.days, trigger.date, telling)}`
    case 'device':
      return `${nameIn(home, trigger.deviceId)} is ${trigger.on ? 'on' : 'off'}${wait(trigger.forMinutes)}`
    case 'motion':
      return `${nameIn(home, trigger.sensorId)} sees ${trigger.seen ? 'somebody' : 'nobody'}${wait(trigger.forMinutes)}`
    case 'temperature':
      return `${nameIn(home, trigger.sensorId)} goes ${trigger.over ? 'over' : 'under'} ${telling.degrees(trigger.degrees)}`
    case 'weather':
      return { rain: 'it begins to rain', dry: 'the rain ends', frost: 'it freezes', wind: 'it blows hard' }[trigger.turns]
    case 'presence':
      return trigger.someone ? 'the first one comes home' : 'the last one leaves'
    case 'power':
      return `${nameIn(home, trigger.deviceId)} takes ${trigger.over ? 'more' : 'less'} than ${trigger.watts} W${wait(trigger.forMinutes)}`
    case 'button':
      return `${nameIn(home, trigger.sensorId)} is pressed`
    case 'household':
      return trigger.does === 'goesToBed' ? 'somebody says good night' : 'the first one gets up'
    case 'mode':
      return `the house turns to ${modeWords[trigger.mode]}`
  }
}
export function conditionSaid(condition: Condition, home: Named, telling: Telling): string {
  switch (condition.is) {
    case 'between':
      return `between ${momentSaid(condition.from, telling)} and ${momentSaid(condition.to, telling)}`
    case 'days':
      return daysSaid(condition.days, null, telling)
    case 'dark':
      return condition.dark ? 'it is dark' : 'it is light'
    case 'device':
      return `${nameIn(home, condition.deviceId)} is ${condition.on ? 'on' : 'off'}`
    case 'mode':
      return `the house is at ${listed(
        condition.modes.map((mode) => modeWords[mode]),
        'or',
      )}`
    case 'presence':
      return condition.someone ? 'somebody is home' : 'nobody is home'
    case 'motion': {
      const who = condition.seen ? 'somebody' : 'nobody'
      const name = nameIn(home, condition.sensorId)
      return condition.forMinutes ? `${name} has seen ${who} for ${condition.forMinutes} min` : `${name} sees ${who}`
    }
    case 'temperature':
      return `${nameIn(home, condition.sensorId)} is ${condition.over ? 'over' : 'under'} ${telling.degrees(condition.degrees)}`
  }
}
export function actionSaid(action: Action, home: Named): string {
  if (action.do === 'tell') return `tell the phone “${action.text}”`
  const later = action.afterSeconds ? ` ${seconds(action.afterSeconds)} later` : ''
  const name = nameIn(home, action.deviceId)
  if (action.do !== 'on') return `${action.do === 'off' ? `${name} off` : `change ${name}`}${later}`
  return `${name} ${action.level === null ? 'on' : `at ${action.level} %`}${action.forSeconds === null ? '' : ` for ${seconds(action.forSeconds)}`}${later}`
}

/** A routine in one sentence. */
export function routineSaid(routine: Routine, home: Named, telling: Telling): string {
  const modes = routine.modes.length
    ? `, only ${listed(
        routine.modes.map((mode) => modeWords[mode]),
        'or',
      )}`
    : ''
  if (routine.kind === 'rule')
    return `When ${listed(
      routine.when.map((one) => triggerSaid(one, home, telling)),
      'or',
    )}${routine.only.length ? `, if ${listed(routine.only.map((one) => conditionSaid(one, home, telling)))}` : ''}: ${listed(routine.then.map((one) => actionSaid(one, home)))}${modes}.`
  const names = listed(routine.deviceIds.map((id) => nameIn(home, id)))
  if (routine.kind === 'pair')
    return `${names} ${routine.level === null ? 'on' : `at ${routine.level} %`} at ${momentSaid(routine.on, telling)}, off at ${momentSaid(routine.off, telling)}, ${daysSaid(routine.days, routine.date, telling)}${modes}.`
  const span = `from ${momentSaid(routine.from, telling)} to ${momentSaid(routine.to, telling)}`
  return routine.kind === 'presence'
    ? `${names} as if somebody were home, ${span}, while everybody is away; no two days the same.`
    : `${names} ${routine.onMinutes} min on and ${routine.offMinutes} min off in turn, ${span}, ${daysSaid(routine.days, null, telling)}${modes}.`
}
