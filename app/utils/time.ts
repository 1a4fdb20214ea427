import { DateTime } from 'luxon'

/** Times are shown in the branch's zone, whatever the device is set to. */
export function clockTime(iso: string | null, zone: string): string {
  return iso ? DateTime.fromISO(iso, { zone }).toFormat('H:mm') : ''
}

/** A day as people say it: a date, or the day of an instant. */
export function dayWord(iso: string, zone: string): string {
  const time = DateTime.fromISO(iso, { zone })
  const days = Math.round(time.startOf('day').diff(DateTime.now().setZone(zone).startOf('day'), 'days').days)
  return days === 0
    ? 'today'
    : days === 1
      ? 'tomorrow'
      : days === -1
        ? 'yesterday'
        : time.toFormat(Math.abs(days) < 300 ? 'ccc d LLL' : 'd LLL yyyy')
}

export function dayAndTime(iso: string | null, zone: string): string {
  return iso ? `${dayWord(iso, zone)} ${clockTime(iso, zone)}` : ''
}
