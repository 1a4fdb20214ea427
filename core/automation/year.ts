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

/** No clock on earth is further from the sun of its place than this, hours: the west of China has not quite three. */
const furthestClock = 3.5
/**
 * Whose sun it is: that of the place, or of a place of the same latitude whose clock it can be, where somebody keeps the clock of
 * another part of the world. People mean their evening.
 * @param offset minutes that the clock is ahead of Greenwich
 */
export function sunPlace([longitude, latitude]: readonly [number, number], offset: number): readonly [number, number] {
  const hours = ((((offset / 60 - longitude / 15) % 24) + 36) % 24) - 12
  return Math.abs(hours) <= furthestClock ? [longitude, latitude] : [((offset / 4 + 540) % 360) - 180, latitude]
}

/**
 * So many days from a date on, with their sun and what is done to their clock. A day begins with its first instant, which need not
 * be midnight where the clock is changed at midnight.
 */
export function homeDays(from: string, count: number, zone: string, position: readonly [number, number] | null): HomeDay[] {
  const first = DateTime.fromISO(from, { zone }).startOf('day')
  const place = position && sunPlace(position, first.offset)
  const starts = Array.from({ length: count + 1 }, (_, index) => first.plus({ days: index }).startOf('day'))
  return starts.slice(0, count).map((day, index) => {
    const [midnight, next] = [day.toSeconds(), starts[index + 1]!.toSeconds()]
    const length = next - midnight
    const sun = place
      ? sunOf(midnight + daySeconds / 2, place)
      : { sunrise: midnight + Math.round(length / 240) * 60, sunset: midnight + Math.round(length / 80) * 60, alwaysUp: false }
    const begins = day.hour * 60 + day.minute
    // A clock that is put forward at midnight was changed with the day’s first instant.
    const change = day.offset === starts[index + 1]!.offset || next - midnight === daySeconds ? null : changeIn(midnight, next, zone)
    return { date: day.toISODate()!, weekday: day.weekday, midnight, begins, change, ...sun }
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
