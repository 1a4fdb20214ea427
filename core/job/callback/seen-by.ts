import { DateTime } from 'luxon'
import type { DaySettings } from '../../units/day-settings'

/**
 * The last day on which somebody looks at what was called about, as the branch promises it: so many of its working days after the
 * call, and on the day of the call where something dangerous was told.
 * @param openedAt ISO
 * @returns YYYY-MM-DD
 */
export function seenBy(
  { openedAt, danger }: { openedAt: string; danger: boolean },
  { callbackDays, workdays }: Pick<DaySettings, 'callbackDays' | 'workdays'>,
  zone: string,
): string {
  let day = DateTime.fromISO(openedAt, { zone }).startOf('day')
  const works = (one: DateTime) => workdays.length === 0 || workdays.includes(one.weekday)
  for (let left = danger ? 0 : callbackDays; left > 0 && day.isValid;) {
    day = day.plus({ days: 1 })
    if (works(day)) left--
  }
  return day.toISODate() ?? openedAt.slice(0, 10)
}

/** How a promise stands: its day has passed, is today, or what was booked comes after it. */
export type SeenInTime = 'kept' | 'today' | 'passed' | 'bookedLater'
/** @param booked the day of its visit, null: none; @param today both YYYY-MM-DD by the branch’s clock */
export function seenInTime(by: string, booked: string | null, today: string): SeenInTime {
  if (booked !== null) return booked > by ? 'bookedLater' : 'kept'
  return by < today ? 'passed' : by === today ? 'today' : 'kept'
}
