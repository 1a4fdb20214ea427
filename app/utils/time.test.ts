import { jest } from '@jest/globals'
import { DateTime, Settings } from 'luxon'
import { clockTime, dateHere, dayAndTime, daysFromToday, dayWord, onSameDay, todayIn } from './time'

// Reference: Luxon 3, which the server reckons with. Zones with changes of the clock, half hours and far from Greenwich.
const zones = ['America/New_York', 'Europe/Dublin', 'Asia/Kolkata', 'Pacific/Auckland', 'America/St_Johns', 'UTC']
const year = Array.from({ length: 1252 }, (_, index) => DateTime.fromISO('2026-01-01T00:17:00Z').plus({ hours: 7 * index }))

test.each(zones)('the clock and the day in %s, every seventh hour of a year', (zone) => {
  for (const moment of year) {
    const iso = moment.toUTC().toISO()!
    const there = moment.setZone(zone)
    const region = { zone, locale: 'en-GB' as const }
    expect(clockTime(iso, region)).toBe(there.toFormat('HH:mm'))
    expect(clockTime(iso, { zone, locale: 'en-US' })).toBe(there.toFormat('h:mm a').replace(' ', '\u00a0'))
    expect(onSameDay(iso, year[571]!.toUTC().toISO()!, region)).toBe(there.hasSame(year[571]!.setZone(zone), 'day'))
  }
})

describe('said on a day on which the clock changes', () => {
  // New York 2026: clocks go back on 1 November.
  const zone = 'America/New_York'
  const region = { zone, locale: 'en-IE' as const }
  const nowIs = Date.parse('2026-11-01T17:00:00Z')
  beforeAll(() => {
    jest.useFakeTimers({ now: nowIs })
    Settings.now = () => nowIs
  })
  afterAll(() => {
    jest.useRealTimers()
    Settings.now = () => Date.now()
  })

  test('today, its neighbours, near and far', () => {
    expect(dayWord('2026-11-01T04:30:00Z', region)).toBe('today')
    expect(dayWord('2026-11-01T03:30:00Z', region)).toBe('yesterday')
    expect(dayWord('2026-11-02T04:59:00Z', region)).toBe('today')
    expect(dayWord('2026-11-02T05:00:00Z', region)).toBe('tomorrow')
    expect(dayWord('2026-11-05', region)).toBe('Thu, 5 Nov')
    expect(dayWord('2024-02-29', region)).toBe('29 Feb 2024')
    expect(dayAndTime('2026-11-02T13:05:00Z', region)).toBe('tomorrow 08:05')
    expect(dayAndTime(null, region)).toBe('')
  })
  test('every day of the years around it is called as the reference calls it', () => {
    for (let days = -400; days <= 400; days++) {
      const day = DateTime.now().setZone(zone).startOf('day').plus({ days })
      const word = { '-1': 'yesterday', '0': 'today', '1': 'tomorrow' }[String(days)]
      expect(dayWord(day.toISODate()!, region)).toBe(
        word ??
          day
            .setLocale('en-IE')
            .toLocaleString({ day: 'numeric', month: 'short', ...(Math.abs(days) < 300 ? { weekday: 'short' } : { year: 'numeric' }) }),
      )
    }
  })
  test('today begins at its first moment and lasts 25 hours', () => {
    expect(daysFromToday(1, region)).toEqual({ from: '2026-11-01T04:00:00.000Z', to: '2026-11-02T05:00:00.000Z' })
  })
  test('today is the branch’s, not the device’s nor Greenwich’s', () => {
    for (const zone of zones) expect(todayIn({ zone, locale: 'en-GB' })).toBe(DateTime.fromMillis(nowIs, { zone }).toISODate())
  })
  test('the date on this device', () => {
    expect(dateHere('2026-11-01T17:00:00Z')).toBe(DateTime.fromISO('2026-11-01T17:00:00Z').toISODate())
  })
})

test('what is no time says nothing, and breaks no page', () => {
  const utc = { zone: 'UTC', locale: 'en-GB' as const }
  for (const wrong of ['', 'soon', '2026-13-40', '2026-11-01T99:00:00Z'])
    expect([clockTime(wrong, utc), dayWord(wrong, utc), dayAndTime(wrong, utc).trim(), onSameDay(wrong, wrong, utc)]).toEqual([
      '',
      '',
      '',
      false,
    ])
  // As some devices write it.
  expect(clockTime('2026-11-01T18:05+01:00', { zone: 'Europe/Dublin', locale: 'en-GB' })).toBe('17:05')
})
