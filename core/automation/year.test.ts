import { GeoLocation, NOAACalculator } from '@hebcal/noaa'
import { Temporal } from 'temporal-polyfill'
import 'temporal-polyfill/global'
import { homeDays, instantsOf, isDark, shown, sunPlace, type HomeDay } from './year'

const clockOf = (at: number, zone: string) =>
  new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', minute: '2-digit' }).format(new Date(at * 1000))
const dayOf = (date: string, zone: string, position: readonly [number, number]) => homeDays(date, 1, zone, position)[0]!

describe('the sun', () => {
  // Values of printed almanacs, from memory: local clock, to the minute they give; places as their cities.
  test.each([
    ['London', 'Europe/London', [-0.1278, 51.5074], '2024-06-20', '04:43', '21:21'],
    ['New York', 'America/New_York', [-74.006, 40.7128], '2024-12-21', '07:17', '16:32'],
    ['New York, summer', 'America/New_York', [-74.006, 40.7128], '2024-06-20', '05:25', '20:31'],
    ['Sydney', 'Australia/Sydney', [151.2093, -33.8688], '2024-12-21', '05:41', '20:05'],
    ['Reykjavik', 'Atlantic/Reykjavik', [-21.9426, 64.1466], '2024-12-21', '11:22', '15:29'],
    ['Tokyo', 'Asia/Tokyo', [139.6503, 35.6762], '2024-06-21', '04:25', '19:00'],
  ] as const)('%s as in an almanac, within a minute', (_, zone, position, date, rise, set) => {
    const { sunrise, sunset } = dayOf(date, zone, position)
    const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3))
    expect(Math.abs(minutes(clockOf(sunrise!, zone)) - minutes(rise))).toBeLessThanOrEqual(1)
    expect(Math.abs(minutes(clockOf(sunset!, zone)) - minutes(set))).toBeLessThanOrEqual(1)
  })

  test.each([
    ['America/New_York', -74, 40.7],
    ['Australia/Sydney', 151.2, -33.9],
    ['Africa/Nairobi', 36.8, -1.3],
    ['Europe/Oslo', 18.96, 69.65],
  ])('%s: a year of days as by the equations of the NOAA, to the minute', (zone, longitude, latitude) => {
    let without = 0
    for (const { date, sunrise, sunset, alwaysUp } of homeDays('2026-01-01', 365, zone, [longitude, latitude])) {
      const noaa = new NOAACalculator(new GeoLocation(null, latitude, longitude, 0, zone), Temporal.PlainDate.from(date))
      for (const [own, other] of [
        [sunrise, noaa.getSunrise()],
        [sunset, noaa.getSunset()],
      ] as const) {
        if (own === null || !other) {
          without++
          // At the edge of the polar day one has the last grazing minutes and the other has not.
          continue
        }
        // Half a minute is rounding; where the sun grazes the horizon both are less sure.
        expect(Math.abs(own - other.epochMilliseconds / 1000)).toBeLessThanOrEqual(latitude > 66 ? 60 : 36)
      }
      if (sunrise === null && sunset === null) expect(alwaysUp).toBe(date > '2026-03' && date < '2026-10')
    }
    expect(without > 0).toBe(latitude > 66)
  })

  test('a clock of another part of the world has the sun of its own evening', () => {
    expect(sunPlace([-74, 40.7], -300)).toEqual([-74, 40.7])
    // Kashgar keeps the clock of Beijing.
    expect(sunPlace([76, 39.5], 480)).toEqual([76, 39.5])
    expect(sunPlace([-74, 40.7], 720)).toEqual([-180, 40.7])
    expect(sunPlace([179, -18], -660)).toEqual([179, -18])
    const { sunset } = dayOf('2026-12-01', 'Pacific/Guadalcanal', [-74, 40.7])
    expect(clockOf(sunset!, 'Pacific/Guadalcanal')).toMatch(/^16:/)
  })
  test('dark and light, also where the sun stays up or down', () => {
    const day = dayOf('2026-06-20', 'Europe/London', [0, 51.5])
    expect([isDark(day, day.midnight), isDark(day, day.midnight + 43_200)]).toEqual([true, false])
    const polar = (date: string) => dayOf(date, 'Europe/Oslo', [18.96, 69.65])
    expect(isDark(polar('2026-06-20'), polar('2026-06-20').midnight)).toBe(false)
    expect(isDark(polar('2026-12-20'), polar('2026-12-20').midnight + 43_200)).toBe(true)
  })
})

describe('the clock on the wall', () => {
  const instants = (date: string, zone: string, minute: number) => {
    const day = dayOf(date, zone, [0, 50])
    return shown(day, minute).map((at) => clockOf(at, zone))
  }
  test('once on a usual day, never and twice when it is changed', () => {
    expect(instants('2026-11-28', 'America/New_York', 150)).toEqual(['02:30'])
    expect(instants('2026-03-08', 'America/New_York', 150)).toEqual([])
    expect(instants('2026-11-01', 'America/New_York', 90)).toEqual(['01:30', '01:30'])
    expect(instants('2026-11-01', 'America/New_York', 150)).toEqual(['02:30'])
    expect(instants('2026-10-25', 'Europe/London', 75)).toEqual(['01:15', '01:15'])
  })
  test('by half an hour, and at midnight', () => {
    expect(instants('2026-10-04', 'Australia/Lord_Howe', 135)).toEqual([])
    expect(instants('2026-10-04', 'Australia/Lord_Howe', 155)).toEqual(['02:35'])
    // Chile puts its clock forward at midnight: that day begins at one.
    expect(instants('2026-09-06', 'America/Santiago', 30)).toEqual([])
    expect(instants('2026-09-06', 'America/Santiago', 90)).toEqual(['01:30'])
  })
  test('a sun with an offset; without a sun there is no moment', () => {
    const day: HomeDay = dayOf('2026-06-20', 'Europe/London', [0, 51.5])
    expect(instantsOf(day, { at: 'sunset', offset: -30 })).toEqual([day.sunset! - 1800])
    expect(instantsOf({ ...day, sunset: null }, { at: 'sunset', offset: 0 })).toEqual([])
  })
})
