import { fromAbsolute, toCalendarDate, today, toZoned, type CalendarDate } from '@internationalized/date'
import { clockOf, formatOf, type Region } from '../../core/units/region'

export { regionOf, type Region } from '../../core/units/region'

/** What is no time is shown as none: an alarm is not to fail for it. */
const momentOf = (iso: string, zone: string) => (Number.isNaN(Date.parse(iso)) ? null : fromAbsolute(Date.parse(iso), zone))

/** The time of day where the branch is, as one writes it there, whatever the device is set to. */
export const clockTime = (iso: string | null, region: Region): string => (iso ? clockOf(iso, region) : '')

const dayNumber = (date: CalendarDate) => date.calendar.toJulianDay(date)
/** The date of an instant in a zone; a date stays itself. */
function dateOf(iso: string, zone: string): CalendarDate | null {
  const moment = momentOf(iso, iso.includes('T') ? zone : 'UTC')
  return moment && toCalendarDate(moment)
}

/** A day as people say it: a date, or the day of an instant. */
export function dayWord(iso: string, { zone, locale }: Region): string {
  const date = dateOf(iso, zone)
  if (!date) return ''
  const days = dayNumber(date) - dayNumber(today(zone))
  const near = { '-1': 'yesterday', '0': 'today', '1': 'tomorrow' }[String(days)]
  if (near) return near
  const parts: Intl.DateTimeFormatOptions = Math.abs(days) < 300 ? { weekday: 'short' } : { year: 'numeric' }
  return formatOf(locale, { timeZone: 'UTC', day: 'numeric', month: 'short', ...parts }).format(date.toDate('UTC'))
}

export function dayAndTime(iso: string | null, region: Region): string {
  return iso ? `${dayWord(iso, region)} ${clockTime(iso, region)}` : ''
}

/** Whether an instant is on the day that another one is on, where the branch is. */
export function onSameDay(iso: string, other: string, { zone }: Region): boolean {
  const [one, two] = [dateOf(iso, zone), dateOf(other, zone)]
  return one !== null && two !== null && one.compare(two) === 0
}

/** From the first moment of a day (today, if no other instant is given) where the branch is, for so many days, as instants. */
export function daysFromToday(days: number, { zone }: Region, at = Date.now()): { from: string; to: string } {
  const from = toCalendarDate(fromAbsolute(at, zone))
  const instant = (date: CalendarDate) => toZoned(date, zone).toAbsoluteString()
  return { from: instant(from), to: instant(from.add({ days })) }
}

/** Today’s date where the branch is. */
export const todayIn = ({ zone }: Region): string => today(zone).toString()
/** The date so many days from now, YYYY-MM-DD. */
export const dayIn = (days: number, { zone }: Region): string => today(zone).add({ days }).toString()

/** The date of an instant where the branch is, YYYY-MM-DD. */
export const dayOf = (iso: string, { zone }: Region): string => dateOf(iso, zone)?.toString() ?? ''

/** The date this device has at an instant. */
export const dateHere = (iso: string) => dateOf(iso, new Intl.DateTimeFormat().resolvedOptions().timeZone)?.toString() ?? ''
