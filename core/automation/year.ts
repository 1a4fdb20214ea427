import { DateTime } from 'luxon'
import { getTimes } from 'suncalc'
import type { Moment } from './model.schema'

/** One calendar day of a home. Instants are whole seconds since 1970. */
export interface HomeDay {
  date: string
  /** Monday is 1. */
  weekday: number
  /** Its first instant, and the minute that its clock shows then: 0, but where the clock is put forward at midnight. */
  midnight: number
  begins: number
  /** When its clock is changed, and by how many seconds it is put forward then; null: it is not. */
  change: { at: number; by: number } | null
  /** Null where it does not rise or set that day. */
  sunrise: number | null
  sunset: number | null
  /** Of a day without either: the sun stands above the horizon all day. */
  alwaysUp: boolean
}
export type Sun = Pick<HomeDay, 'sunrise' | 'sunset' | 'alwaysUp'>

const daySeconds = 86_400

/**
 * Sunrise and sunset of a calendar day: the upper limb at the horizon with usual refraction, to the nearest minute, as almanacs do.
 * @param noon an instant near noon of that day, seconds since 1970
 */
export function sunOf(noon: number, [longitude, latitude]: readonly [number, number]): Sun {
  const times = getTimes(new Date(noon * 1000), latitude, longitude)
  const whole = (time: Date | null) => (time ? Math.round(time.getTime() / 60_000) * 60 : null)
  return { sunrise: whole(times.sunrise), sunset: whole(times.sunset), alwaysUp: times.alwaysUp === true }
}

/**
 * So many days from a date on, with their sun and what is done to their clock. A day begins with its first instant, which need not
 * be midnight where the clock is changed at midnight.
 */
export function homeDays(from: string, count: number, zone: string, position: readonly [number, number] | null): HomeDay[] {
  const first = DateTime.fromISO(from, { zone }).startOf('day')
  return Array.from({ length: count }, (_, index) => {
    const day = first.plus({ days: index })
    const midnight = day.toSeconds()
    const next = day.plus({ days: 1 }).startOf('day').toSeconds()
    const length = next - midnight
    const sun = position
      ? sunOf(midnight + daySeconds / 2, position)
      : { sunrise: midnight + Math.round(length / 240) * 60, sunset: midnight + Math.round(length / 80) * 60, alwaysUp: false }
    const begins = day.hour * 60 + day.minute
    return { date: day.toISODate()!, weekday: day.weekday, midnight, begins, change: changeIn(midnight, next, zone), ...sun }
  })
}

function changeIn(from: number, to: number, zone: string): HomeDay['change'] {
  const offset = (at: number) => DateTime.fromSeconds(at, { zone }).offset * 60
  const [before, after] = [offset(from), offset(to - 1)]
  if (before === after) return null
  let [low, high] = [from, to - 1]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (offset(middle) === before) low = middle
    else high = middle
  }
  return { at: high, by: after - before }
}

/**
 * When the clock on the wall shows a minute of a day: once as a rule, never where it is put forward over it, twice where it is put
 * back. A device with a plain clock acts each time.
 */
export function shown(day: HomeDay, minute: number): number[] {
  if (minute < day.begins) return []
  const before = day.midnight + (minute - day.begins) * 60
  if (!day.change) return [before]
  const { at, by } = day.change
  const after = before - by
  return [...(before < at ? [before] : []), ...(after >= at ? [after] : [])]
}

/** When a moment comes on a day: none, one, or two instants. */
export function instantsOf(day: HomeDay, moment: Moment): number[] {
  if (moment.at === 'clock') return shown(day, moment.minute)
  const sun = day[moment.at]
  return sun === null ? [] : [sun + moment.offset * 60]
}

/** Whether the sun is below the horizon. */
export function isDark({ sunrise, sunset, alwaysUp }: Sun, at: number): boolean {
  if (sunrise === null && sunset === null) return !alwaysUp
  return (sunrise !== null && at < sunrise) || (sunset !== null && at >= sunset)
}
