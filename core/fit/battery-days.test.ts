import { DateTime } from 'luxon'
import { batteryDue, monthSaid } from './battery'

test('days of batteries are those of the date library, months of any length', () => {
  for (let day = DateTime.fromISO('2023-12-20', { zone: 'utc' }); day.year < 2029; day = day.plus({ days: 5 }))
    for (const batteryYears of [0.5, 1, 1.25, 3, null]) {
      const on = day.toISODate()!
      expect(batteryDue(on, { batteryYears })).toBe(day.plus({ months: Math.round((batteryYears ?? 3) * 12) }).toISODate())
    }
  for (const day of ['2024-02-29', '2026-12-31', '2027-01-01'])
    expect(monthSaid(day)).toBe(DateTime.fromISO(day).setLocale('en').toFormat('LLLL yyyy'))
})
