import { DateFormatter, fromAbsolute, toCalendarDate, today, toZoned, type CalendarDate } from '@internationalized/date'

/** What is no time is shown as none: an alarm is not to fail for it. */
const momentOf = (iso: string, zone: string) => (Number.isNaN(Date.parse(iso)) ? null : fromAbsolute(Date.parse(iso), zone))

/** Times are shown in the branch's zone, whatever the device is set to. */
export function clockTime(iso: string | null, zone: string): string {
  const time = iso ? momentOf(iso, zone) : null
  if (!time) return ''
  const { hour, minute } = time
  return `${hour}:${String(minute).padStart(2, '0')}`
}

const words = new DateFormatter('en-US', { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
const dayNumber = (date: CalendarDate) => date.calendar.toJulianDay(date)
/** The date of an instant in a zone; a date stays itself. */
function dateOf(iso: string, zone: string): CalendarDate | null {
  const moment = momentOf(iso, iso.includes('T') ? zone : 'UTC')
  return moment && toCalendarDate(moment)
}

/** A day as people say it: a date, or the day of an instant. */
export function dayWord(iso: string, zone: string): string {
  const date = dateOf(iso, zone)
  if (!date) return ''
  const days = dayNumber(date) - dayNumber(today(zone))
  const near = { '-1': 'yesterday', '0': 'today', '1': 'tomorrow' }[String(days)]
  if (near) return near
  const part = Object.fromEntries(words.formatToParts(date.toDate('UTC')).map(({ type, value }) => [type, value]))
  return Math.abs(days) < 300 ? `${part.weekday} ${part.day} ${part.month}` : `${part.day} ${part.month} ${part.year}`
}

export function dayAndTime(iso: string | null, zone: string): string {
  return iso ? `${dayWord(iso, zone)} ${clockTime(iso, zone)}` : ''
}

/** Whether an instant is on the day that another one is on, where the branch is. */
export function onSameDay(iso: string, other: string, zone: string): boolean {
  const [one, two] = [dateOf(iso, zone), dateOf(other, zone)]
  return one !== null && two !== null && one.compare(two) === 0
}

/** From the first moment of a day (today, if no other instant is given) where the branch is, for so many days, as instants. */
export function daysFromToday(days: number, zone: string, at = Date.now()): { from: string; to: string } {
  const from = toCalendarDate(fromAbsolute(at, zone))
  const instant = (date: CalendarDate) => toZoned(date, zone).toAbsoluteString()
  return { from: instant(from), to: instant(from.add({ days })) }
}

/** The date this device has at an instant. */
export const dateHere = (iso: string) => dateOf(iso, new Intl.DateTimeFormat().resolvedOptions().timeZone)?.toString() ?? ''
