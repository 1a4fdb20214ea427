import type { DateTime } from 'luxon'

/** A time of day as 07:30 on a day there, whatever its clock does that night. Seconds of the day stay as they are. */
export function clockAt(day: DateTime, clock: string): DateTime {
  const [hour, minute] = clock.split(':').map(Number)
  return day.set({ hour, minute })
}
