import type { DeviceModel } from '../fit'
import { functionalChecks } from './functional-checks'
import { judgeSignal } from './signal'

describe('functional checks', () => {
  const main = (over: Partial<DeviceModel>) => ({ kind: 'switch', multiWay: 'single', ...over }) as DeviceModel
  const led = { technology: 'led' as const, lamps: 1, wattsEach: 9, dimmable: true }
  const here = { boxId: 'a', gang: 1, name: 'door' }
  const there = { boxId: 'b', gang: 1, name: 'stair head' }
  test('one place: on, off, and back after an interruption', () =>
    expect(functionalChecks(led, [here], main({})).map((check) => check.kind)).toEqual(['on', 'off', 'power']))
  test('a dimmer adds 25, 50, 75, 100 % and the lowest step', () =>
    expect(
      functionalChecks(led, [here], main({ kind: 'dimmer' }))
        .filter((check) => check.kind === 'level')
        .map((check) => check.what),
    ).toEqual(['25 % steady', '50 % steady', '75 % steady', '100 % steady', 'Lowest step without flicker']))
  test('a mechanical 3-way is tested from every combination of positions: 2 places × 2 positions of the other × on and off = 8', () => {
    const checks = functionalChecks(led, [here, there], main({ multiWay: 'commonTravelers' })).filter(
      (check) => check.kind === 'on' || check.kind === 'off',
    )
    expect(checks).toHaveLength(8)
    expect(new Set(checks.map((check) => check.id)).size).toBe(8)
  })
  test('a companion has no positions: on and off from each place', () =>
    expect(functionalChecks(led, [here, there], main({ multiWay: 'companion' })).filter((check) => check.kind !== 'power')).toHaveLength(4))
  test('a motor is seen turning', () =>
    expect(
      functionalChecks({ ...led, technology: 'motor', dimmable: false }, [here], main({})).some((check) => check.kind === 'motor'),
    ).toBe(true))
})

test('Wi-Fi level: two bars are the least (common practice, no source)', () => {
  expect(judgeSignal({ kind: 'bars', bars: 1 }).level).toBe('poor')
  expect(judgeSignal({ kind: 'bars', bars: 2 }).level).toBe('fair')
  expect(judgeSignal({ kind: 'dbm', dbm: -58 }).level).toBe('good')
  expect(judgeSignal({ kind: 'dbm', dbm: -80 }).level).toBe('poor')
})
