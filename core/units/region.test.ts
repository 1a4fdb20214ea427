import { DateTime } from 'luxon'
import { typedNumber } from './typed-number'
import { clockOf, dateIn, decimalSign, inRegion, localeIds, momentOf, numberIn, regionOf } from './region'

// Reference: Luxon 3 on the same Unicode CLDR; the decimal signs from CLDR, from memory.
test('a moment of the day is written as people of the region do', () => {
  const evening = '2026-11-07T18:26:00Z'
  expect(clockOf(evening, { zone: 'UTC', locale: 'en-US' })).toBe('6:26\u00a0PM')
  expect(clockOf(evening, { zone: 'UTC', locale: 'en-GB' })).toBe('18:26')
  expect(momentOf(evening, { zone: 'UTC', locale: 'en-US' })).toBe('Nov 7, 2026, 6:26 PM')
  expect(dateIn('2026-11-07', 'en-US')).toBe('Nov 7, 2026')
  expect(dateIn('2026-11-07', 'en-GB')).toBe('7 Nov 2026')
  expect(dateIn('soon', 'en-GB')).toBe('soon')
  for (const locale of localeIds)
    for (let hour = 0; hour < 24; hour++) {
      const iso = `2026-03-08T${String(hour).padStart(2, '0')}:05:00Z`
      const there = DateTime.fromISO(iso, { zone: 'America/New_York', locale })
      expect(clockOf(iso, { zone: 'America/New_York', locale })).toBe(there.toLocaleString({ timeStyle: 'short' }).replace(/\s/g, '\u00a0'))
    }
})

test('every number that is written can be typed again', () => {
  for (const locale of localeIds) for (const value of [0.4, 12.25, 1234.5, 0, 118]) expect(typedNumber(numberIn(value, locale))).toBe(value)
  expect([decimalSign('en-US'), decimalSign('en-DE'), decimalSign('en-ZA'), decimalSign('en-CH')]).toEqual(['.', ',', ',', '.'])
})

test('measured values and dates in a sentence follow the region; nothing else does', () => {
  expect(inRegion('A to B read 118.4 V, 0.30 Ω of it leads.', 'en-DE')).toBe('A to B read 118,4 V, 0,30 Ω of it leads.')
  expect(inRegion('118.4 V', 'en-US')).toBe('118.4 V')
  const rule = 'NEC 314.16(B), 210.20(A), serial 12.5VX, version 1.2, 1.2.3 V'
  expect(inRegion(rule, 'en-DE')).toBe(rule)
  expect(inRegion(['The calibration ended on 2025-02-03.', { text: '1.5 mm²' }], 'en-SE')).toEqual([
    'The calibration ended on 3 Feb 2025.',
    { text: '1,5 mm²' },
  ])
  expect(inRegion('recorded serial 2025-02-03', 'en-GB')).toBe('recorded serial 2025-02-03')
})

test('a branch that has chosen nothing writes as is usual under its supply', () => {
  const branch = { timezone: 'UTC', settings: {} }
  expect(regionOf({ ...branch, schemeId: 'na120' }).locale).toBe('en-US')
  expect(regionOf({ ...branch, schemeId: 'iec230' }).locale).toBe('en-GB')
  expect(regionOf({ ...branch, schemeId: 'iec230', settings: { locale: 'en-ZA' } }).locale).toBe('en-ZA')
  expect(regionOf(null)).toEqual({ zone: 'UTC', locale: 'en-US' })
})
