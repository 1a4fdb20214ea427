import { afterTrips, continuityMeter, solveHome } from './home'
import { magnitude } from './circuit/complex-lu'
import type { AsFoundBox } from './identify/found-box'
import type { Part, Wiring } from './model'
import { circuitsOf } from './plan/outside'
import { terminalModel } from './terminal-model'

const base = (over: Partial<Wiring>): Wiring => ({
  hertz: 60,
  nominalVolts: 120,
  circuits: [{ id: 'c', volts: 120, degrees: 0, amps: 15, guard: 'none' }],
  cables: [],
  joins: [],
  parts: [],
  faults: [],
  ...over,
})
const bulb: Part = { id: 'lamp', kind: 'lamp', lamp: 'filament', watts: 60 }
const state = (wiring: Wiring, positions: Record<string, number> = {}, closed = ['c']) => {
  const answer = solveHome(wiring, { closed, positions })
  if (!answer.ok) throw new Error(answer.sentence)
  return answer.home
}

describe('truth tables of switches (wiring theory: any two 3-ways, and any 4-way between, change the light)', () => {
  const twoWay = base({
    parts: [{ id: 's1', kind: 'switch', contacts: 'threeWay' }, { id: 's2', kind: 'switch', contacts: 'threeWay' }, bulb],
    joins: [
      ['c.line', 's1:common'],
      ['s1:t1', 's2:t1'],
      ['s1:t2', 's2:t2'],
      ['s2:common', 'lamp:hot'],
      ['lamp:cold', 'c.neutral'],
    ],
  })
  test.each([
    [0, 0, 'on'],
    [0, 1, 'off'],
    [1, 0, 'off'],
    [1, 1, 'on'],
  ])('3-way %d %d: %s', (s1, s2, light) => expect(state(twoWay, { s1, s2 }).light('lamp')).toBe(light))
  test('a 4-way in the middle: every single movement changes the light', () => {
    const three = base({
      parts: [...twoWay.parts, { id: 'm', kind: 'switch', contacts: 'fourWay' }],
      joins: [
        ['c.line', 's1:common'],
        ['s1:t1', 'm:a1'],
        ['s1:t2', 'm:a2'],
        ['m:b1', 's2:t1'],
        ['m:b2', 's2:t2'],
        ['s2:common', 'lamp:hot'],
        ['lamp:cold', 'c.neutral'],
      ],
    })
    for (let bits = 0; bits < 8; bits++) {
      const positions = { s1: bits & 1, m: (bits >> 1) & 1, s2: (bits >> 2) & 1 }
      const here = state(three, positions).light('lamp')
      for (const name of ['s1', 'm', 's2'] as const)
        expect(state(three, { ...positions, [name]: 1 - positions[name] }).light('lamp')).not.toBe(here)
    }
  })
  test('a common and a traveler exchanged: it works in half of the positions only (common practice, no source)', () => {
    const crossed: Wiring = { ...twoWay, faults: [{ kind: 'swapped', a: 's2:common', b: 's2:t1' }] }
    const lights = [0, 1, 2, 3].map((bits) => state(crossed, { s1: bits & 1, s2: bits >> 1 }).light('lamp'))
    // Each switch changes the light with the other one in one of its positions, and does nothing with it in the other.
    expect([lights[0] !== lights[1], lights[2] !== lights[3]]).toEqual([true, false])
    expect([lights[0] !== lights[2], lights[1] !== lights[3]]).toEqual([true, false])
  })
})

describe('what a meter shows', () => {
  const floating = base({
    cables: [
      {
        id: 'k',
        metres: 12,
        cores: [
          { id: 'A', colour: 'black' },
          { id: 'B', colour: 'red' },
          { id: 'N', colour: 'white' },
        ],
      },
    ],
    joins: [
      ['A.far', 'c.line'],
      ['N.far', 'c.neutral'],
    ],
  })
  test('a floating conductor beside a live one: ghost voltage with high impedance, nothing with low (common practice, no source)', () => {
    const home = state(floating)
    expect(home.metered('B.near', 'earth', 'high')).toBeGreaterThan(20)
    expect(home.metered('B.near', 'earth', 'low')).toBeLessThan(1)
    expect(home.metered('A.near', 'earth', 'low')).toBeCloseTo(120, 0)
    expect(home.contactless('A.near')).toBe(true)
    expect(home.contactless('N.near')).toBe(false)
  })
  test('continuity: metal beeps, a lamp shows its ohms, the bond of neutral and ground at the panel shows', () => {
    const wiring = base({ parts: [bulb], joins: [['lamp:cold', 'c.neutral']] })
    const ohms = continuityMeter(wiring, {})
    // Cold: a twelfth of the 240 ohms it has when lit.
    expect(ohms('lamp:hot', 'c.neutral')).toBeCloseTo(20, 0)
    expect(ohms('c.neutral', 'earth')).toBeLessThan(1)
    expect(ohms('lamp:hot', 'c.line')).toBe(Infinity)
  })
})

describe('devices and faults', () => {
  const relay: Part = {
    id: 'd',
    kind: 'device',
    model: terminalModel({ kind: 'switch', multiWay: 'single', terminals: ['line', 'load', 'neutral'] }),
  }
  const wired = base({
    parts: [relay, bulb],
    joins: [
      ['c.line', 'd:line'],
      ['d:load', 'lamp:hot'],
      ['lamp:cold', 'c.neutral'],
      ['d:neutral', 'c.neutral'],
    ],
  })
  test('a relay with its neutral works; line and load exchanged: it has no power (device dead: common practice, no source)', () => {
    expect(state(wired, { d: 1 }).light('lamp')).toBe('on')
    expect(state(wired, { d: 0 }).light('lamp')).toBe('off')
    const exchanged: Wiring = { ...wired, faults: [{ kind: 'swapped', a: 'd:line', b: 'd:load' }] }
    expect(state(exchanged, { d: 1 }).powered('d')).toBe(false)
  })
  test('fed through a small LED lamp without neutral: it glows when off (below minimum load: common practice, no source)', () => {
    const throughLoad = base({
      parts: [
        {
          id: 'd',
          kind: 'device',
          model: terminalModel({ kind: 'switch', multiWay: 'single', terminals: ['line', 'load'] }),
        },
        { id: 'lamp', kind: 'lamp', lamp: 'led', watts: 4 },
      ],
      joins: [
        ['c.line', 'd:line'],
        ['d:load', 'lamp:hot'],
        ['lamp:cold', 'c.neutral'],
      ],
    })
    expect(state(throughLoad, { d: 0 }).light('lamp')).not.toBe('off')
    const filament = { ...throughLoad, parts: [throughLoad.parts[0]!, bulb] }
    expect(state(filament, { d: 0 }).light('lamp')).toBe('off')
    expect(state(filament, { d: 1 }).light('lamp')).toBe('on')
  })
  test('line to neutral trips at once; a borrowed neutral leaves a residual current (common practice, no source)', () => {
    const short: Wiring = { ...wired, faults: [{ kind: 'contact', a: 'c.line', b: 'd:neutral' }] }
    expect(state(short).trips()).toEqual([{ circuitId: 'c', why: 'short' }])
    const other = { id: 'e', volts: 120, degrees: 180, amps: 15, guard: 'residualCurrent' as const }
    const borrowed: Wiring = {
      ...wired,
      circuits: [{ ...wired.circuits[0]!, guard: 'residualCurrent' }, other],
      faults: [{ kind: 'moved', point: 'lamp:cold', to: 'e.neutral' }],
    }
    expect(state(borrowed, { d: 1 }).trips()).toEqual([{ circuitId: 'c', why: 'residual' }])
    expect(magnitude(state(borrowed, { d: 1 }).neutralAmps('e'))).toBeCloseTo(0.5, 1)
  })
  test('a load on ground behind a relay: the breaker trips as the relay closes, and nothing chatters (common practice, no source)', () => {
    const short: Wiring = { ...wired, faults: [{ kind: 'contact', a: 'd:load', b: 'earth' }] }
    expect(state(short, { d: 0 }).trips()).toEqual([])
    expect(state(short, { d: 1 }).trips()).toEqual([{ circuitId: 'c', why: 'short' }])
    const ends = afterTrips(state(short, { d: 1 }))
    expect(ends.map(({ trips }) => trips)).toEqual([['c']])
    expect(ends[0]!.home!.metered('c.line', 'earth', 'low')).toBeLessThan(1)
  })
  test('an open conductor, a bad joint, a welded relay, a neutral on ground', () => {
    const cable = { id: 'k', metres: 5, cores: [{ id: 'L', colour: 'black' }] }
    const withCable: Wiring = { ...wired, cables: [cable], joins: [...wired.joins.slice(1), ['c.line', 'L.far'], ['L.near', 'd:line']] }
    expect(state(withCable, { d: 1 }).light('lamp')).toBe('on')
    expect(state({ ...withCable, faults: [{ kind: 'open', coreId: 'L' }] }, { d: 1 }).light('lamp')).toBe('off')
    expect(state({ ...withCable, faults: [{ kind: 'highResistance', coreId: 'L', ohms: 120 }] }, { d: 1 }).watts('lamp')).toBeLessThan(40)
    // A joint so bad that closing the relay takes the relay's own power away: it chatters, and that is said.
    const chatter = solveHome(
      { ...withCable, faults: [{ kind: 'highResistance', coreId: 'L', ohms: 400 }] },
      { closed: ['c'], positions: { d: 1 } },
    )
    expect(chatter).toMatchObject({ ok: false, code: 'didNotSettle' })
    expect(state({ ...wired, faults: [{ kind: 'welded', partId: 'd' }] }, { d: 0 }).light('lamp')).toBe('on')
    const grounded: Wiring = {
      ...wired,
      circuits: [{ ...wired.circuits[0]!, guard: 'residualCurrent' }],
      faults: [{ kind: 'contact', a: 'lamp:cold', b: 'earth' }],
    }
    expect(state(grounded, { d: 1 }).trips()[0]?.why).toBe('residual')
  })
  test('the circuits of a box as the supply brings them: 240 V between two legs, 400 V between two phases', () => {
    const angles = (nominalVolts: number) =>
      circuitsOf({ circuits: ['1', '2'], nominalVolts } as AsFoundBox, []).map(({ degrees }) => degrees)
    expect(angles(120)).toEqual([0, 180])
    expect(angles(230)).toEqual([0, 120])
  })
  test('between two legs: 240 V at 180°, 208 V at 120° (√3)', () => {
    const legs = (degrees: number) =>
      base({
        circuits: [base({}).circuits[0]!, { id: 'e', volts: 120, degrees, amps: 15, guard: 'none' }],
        joins: [
          ['c.line', 'x:1'],
          ['e.line', 'x:2'],
        ],
      })
    expect(state(legs(180), {}, ['c', 'e']).metered('c.line', 'e.line', 'low')).toBeCloseTo(240, 0)
    expect(state(legs(120), {}, ['c', 'e']).metered('c.line', 'e.line', 'low')).toBeCloseTo(120 * Math.sqrt(3), 0)
  })
})
