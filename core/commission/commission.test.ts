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
  test('a companion has no positions: on and off from each place, which stay in step', () => {
    const kinds = functionalChecks(led, [here, there], main({ multiWay: 'companion' })).map(({ kind }) => kind)
    expect(kinds).toEqual(['on', 'off', 'on', 'off', 'step', 'power'])
    // Nobody asks an app about a device that has none.
    expect(functionalChecks(led, [here, there], main({ multiWay: 'companion', setupCode: 'none' })).map(({ kind }) => kind)).not.toContain(
      'step',
    )
  })
  test('a motor is seen turning', () =>
    expect(
      functionalChecks({ ...led, technology: 'motor', dimmable: false }, [here], main({})).some((check) => check.kind === 'motor'),
    ).toBe(true))
  test('a fan: its own chains first, then each speed of a fan control, turning (common practice, no source)', () => {
    const fan = { technology: 'fan' as const, lamps: 1, wattsEach: 60, dimmable: false }
    const moves = (model: Partial<DeviceModel>) =>
      functionalChecks(fan, [here], main(model)).flatMap(({ kind, what }) => (kind === 'fan' || kind === 'motor' ? [what] : []))
    expect(moves({ kind: 'fanControl' })).toEqual([
      'Pull chain at the fan, where it has one, on highest; its light’s chain on',
      'Turns at the lowest speed, seen',
      'Turns at the middle speed, seen',
      'Turns at the highest speed, seen',
    ])
    expect(moves({})).toEqual(['Pull chain at the fan, where it has one, on highest; its light’s chain on', 'Motor seen turning'])
  })
  test('beside others: nothing else answers; a box that feeds on: what hangs behind it', () => {
    const beside = (points: string[], onwardFrom: string[] = []) =>
      functionalChecks(led, [here], main({}), { points, onwardFrom }).flatMap(({ kind, what }) =>
        kind === 'own' || kind === 'onward' ? [what] : [],
      )
    expect(beside([])).toEqual([])
    expect(beside(['Porch light'])).toEqual(['Nothing else answers: Porch light stays as it was'])
    expect(beside(['A', 'B', 'C', 'D'])).toEqual(['Nothing else answers: A, B, C and the others stay as they were'])
    expect(beside([], ['door'])).toEqual(['What door feeds on still works, each socket tried'])
  })
})

test('Wi-Fi level: two bars are the least (common practice, no source)', () => {
  expect(judgeSignal({ kind: 'bars', bars: 1 }).level).toBe('poor')
  expect(judgeSignal({ kind: 'bars', bars: 2 }).level).toBe('fair')
  expect(judgeSignal({ kind: 'dbm', dbm: -58 }).level).toBe('good')
  expect(judgeSignal({ kind: 'dbm', dbm: -80 }).level).toBe('poor')
})
