import { Chance } from '../../chance'
import type { Wiring } from '../model'
import { circuitsOf } from '../plan/outside'
import { readBox } from '../practice/read-to-the-end'
import { SimulatedMeter } from '../simulated-meter'
import { median, quantile, runTrials } from '../testing/run-trials'
import { makeTrialBox } from '../testing/strange-homes'
import { makeWiderBox } from '../testing/wider-homes'
import { identify } from './identify'
import { nextTest } from './next-test'
import { outcomeOf, type AsFoundBox, type WireReading } from './found-box'
import { practiceBoxes, practiceMeter } from '../practice'
import { foundBoxSchema, wireReadingSchema } from './found-box-schema'

const cable = (id: string, ...cores: [string, string][]) => ({ id, cores: cores.map(([letter, colour]) => ({ letter, colour })) })
const loop: AsFoundBox = {
  nominalVolts: 120,
  circuits: ['2'],
  farSwitches: 0,
  cables: [cable('up', ['A', 'white'], ['B', 'black'], ['C', 'bare'])],
  splices: [],
  oldSwitches: [{ contacts: 'single', terminals: { a: ['A'], b: ['B'] } }],
  complete: true,
}
const volts = (a: string, b: string, value: number): WireReading => ({ kind: 'voltage', a, b, closed: ['2'], far: [], value })
const settled = (found: AsFoundBox, readings: WireReading[]) =>
  Object.fromEntries(identify(found, readings).wires.map((wire) => [wire.letter, wire.settled?.role ?? null]))

describe('what counts as established', () => {
  test('colours alone establish nothing; white may be the line of a loop (NEC 200.7(C))', () => {
    expect(settled(loop, [])).toMatchObject({ A: null, B: null })
    const read = [volts('A', 'REF', 121), volts('B', 'REF', 0), volts('A', 'C', 121), volts('B', 'C', 0.2)]
    expect(settled(loop, read)).toMatchObject({ A: 'line', B: 'load' })
  })
  test('a load is read dead twice with the power on: one slip would hide a line', () =>
    expect(settled(loop, [volts('A', 'REF', 121), volts('B', 'REF', 0), volts('A', 'C', 121)]).B).toBeNull())
  test('a line needs a second, independent reading', () => {
    const once = identify(loop, [volts('A', 'REF', 121)])
    const a = once.wires.find((wire) => wire.letter === 'A')!
    expect(a.settled).toBeNull()
    expect(a.onceMore).toBe(true)
    expect(settled(loop, [volts('A', 'REF', 121), volts('A', 'C', 120)]).A).toBe('line')
  })
  test('a reading that fits nothing is asked for again; of two that disagree a third decides', () => {
    const readings = [volts('A', 'REF', 121), volts('A', 'C', 120), volts('B', 'REF', 0), volts('B', 'C', 121)]
    expect(identify(loop, readings).state).toBe('odd')
    const advice = nextTest(loop, readings, true)
    expect(advice.done === false && advice.next.purpose).toBe('repeat')
    const twice = [...readings, volts('B', 'C', 0)]
    expect(identify(loop, twice)).toMatchObject({ state: 'odd', odd: [{ a: 'B', b: 'C' }] })
    expect(identify(loop, [...twice, volts('B', 'C', 0.3)]).state).toBe('open')
    // The slip may as well have been the second one.
    expect(identify(loop, [...twice, volts('B', 'C', 120)]).state).toBe('odd')
  })
  test('both conductors of a loop live: no arrangement, stop', () => {
    const both = [volts('A', 'REF', 121), volts('A', 'C', 120), volts('B', 'REF', 120), volts('B', 'C', 121), volts('A', 'B', 240)]
    expect(identify(loop, both).state).toBe('stop')
    expect(nextTest(loop, both, true)).toEqual({ done: true, found: false })
  })
  test('first with the old switch attached, on and off; with the conductors off it already, dead tests first', () => {
    const first = nextTest(loop, [], false)
    expect(first.done === false && first.next).toMatchObject({ energised: true, tests: [{ old: [0] }, { old: [0] }, { old: [0] }] })
    const apart = nextTest(loop, [], false, { apart: true })
    expect(apart.done === false && apart.next.energised).toBe(false)
  })
  test('a reading that was wrong with the old switch attached is asked again just so', () => {
    const on = (a: string, value: number): WireReading => ({ ...volts(a, 'REF', value), old: [1] })
    const advice = nextTest(loop, [on('A', 121), on('B', 60)], true)
    expect(advice.done === false && advice.next).toMatchObject({ purpose: 'repeat', tests: [{ old: [1] }] })
  })
})

describe('the old switch still attached (common practice, no source: live in both positions is line, what follows the switch is load)', () => {
  const attached = (a: string, position: number, value: number): WireReading => ({ ...volts(a, 'REF', value), old: [position] })
  const follows = [attached('A', 0, 120), attached('A', 1, 121), attached('B', 0, 0.2), attached('B', 1, 120)]
  test('method a alone tells both, and each is confirmed by method b', () => {
    expect(settled(loop, follows).A).toBe('line')
    expect(settled(loop, [...follows, { ...attached('B', 0, 0.1), b: 'C' }])).toMatchObject({ A: 'line', B: 'load' })
    expect(settled(loop, [attached('B', 1, 120), attached('B', 0, 0.2)]).A).toBeNull()
    const both = [attached('B', 0, 0.1), volts('B', 'REF', 0.1), volts('A', 'REF', 121), volts('A', 'C', 121)]
    expect(settled(loop, both)).toMatchObject({ A: 'line', B: 'load' })
  })
  test('with the switch on, both ends are one metal, unless it is worn out; one of them alone live is neither', () => {
    expect(identify(loop, [{ ...volts('A', 'B', 120), old: [1] }]).state).toBe('open')
    expect(identify(loop, [{ ...volts('A', 'B', 120), old: [0] }]).state).toBe('open')
    // A follows nothing and is dead, B is live only with the switch on: it would be fed through A.
    expect(identify(loop, [attached('A', 1, 0), attached('B', 1, 120), attached('B', 0, 0)]).state).not.toBe('open')
  })
  test('a 3-way’s lever does not say which traveler it picks: either is possible', () => {
    const box: AsFoundBox = {
      ...loop,
      farSwitches: 1,
      cables: [cable('three', ['A', 'black'], ['B', 'red'], ['C', 'white'], ['D', 'bare'])],
      oldSwitches: [{ contacts: 'threeWay', terminals: { common: ['A'], t1: ['B'], t2: ['C'] } }],
    }
    const on = (a: string, value: number): WireReading => ({ ...volts(a, 'REF', value), far: [0], old: [0] })
    expect(identify(box, [on('B', 120)]).state).toBe('open')
    expect(identify(box, [on('C', 120)]).state).toBe('open')
  })
  test('the simulated meter reads a practice box with its old switch on and off', () => {
    const box = practiceBoxes.find((one) => one.id === 'print-shop-door')!
    const meter = practiceMeter(box, 2)
    const at = (a: string, position: number) => meter.read({ kind: 'voltage', a, b: 'REF', closed: ['3'], far: [], old: [position] }).value
    expect(at('A', 0)).toBeGreaterThan(110)
    expect(at('B', 0)).toBeLessThan(1)
    expect(at('B', 1)).toBeGreaterThan(110)
  })
})

describe('what is behind the plate when somebody comes to replace it', () => {
  const wiring = (found: AsFoundBox, faults: Wiring['faults'] = []): Wiring => ({
    hertz: 60,
    nominalVolts: 120,
    circuits: circuitsOf(found, []),
    cables: found.cables.map(({ id, cores }) => ({ id, metres: 8, cores: cores.map(({ letter, colour }) => ({ id: letter, colour })) })),
    joins: [
      ['A.far', '2.line'],
      ['B.far', 'lamp:hot'],
      ['lamp:cold', '2.neutral'],
      ['C.far', 'earth'],
    ],
    parts: [{ id: 'lamp', kind: 'lamp', lamp: 'filament', watts: 60 }],
    faults,
  })
  const rolesBy = (found: AsFoundBox, faults: Wiring['faults'] = []) => {
    const read = readBox(found, new SimulatedMeter(wiring(found, faults), new Chance(5), 0, found))
    return { found: read.found, roles: Object.fromEntries(read.findings.wires.map((wire) => [wire.letter, wire.settled?.role ?? null])) }
  }
  test('a switch that no longer closes stops nothing', () =>
    expect(rolesBy(loop, [{ kind: 'deadPart', partId: 'old1' }])).toEqual({ found: true, roles: { A: 'line', B: 'load', C: 'ground' } }))
  test('a dimmer or timer is noted as something else: its conductors come off first', () => {
    const dimmer: AsFoundBox = { ...loop, oldSwitches: [{ contacts: 'other', terminals: { a: ['A'], b: ['B'] } }] }
    const first = nextTest(dimmer, [], false)
    expect(first.done === false && first.next.energised).toBe(false)
    expect(rolesBy(dimmer)).toEqual({ found: true, roles: { A: 'line', B: 'load', C: 'ground' } })
  })
  test('behind an RCD or GFCI it is said that low impedance to ground may trip it (4 kilohms, 30 mA at 120 V)', () => {
    const watched = nextTest({ ...loop, guards: { 2: 'residualCurrent' } }, [], true)
    expect(watched.done === false && watched.next.how).toContain('a zero after a trip says nothing')
    const plain = nextTest(loop, [], true)
    expect(plain.done === false && plain.next.how).not.toContain('trip')
  })
})

describe('other instruments', () => {
  test('a high-impedance meter says nothing of a conductor that floats (ghost voltage: common practice, no source)', () => {
    const ghost: WireReading = { ...volts('B', 'REF', 43), kind: 'voltageHigh' }
    const sure = [volts('A', 'REF', 121), volts('A', 'C', 120), volts('B', 'REF', 0)]
    expect(identify(loop, [...sure, ghost]).state).toBe('open')
    expect(identify(loop, [...sure, { ...ghost, kind: 'voltage' }]).state).toBe('odd')
    expect(settled(loop, [volts('A', 'REF', 121), { ...volts('A', 'C', 120), kind: 'voltageHigh' }, volts('B', 'REF', 0)]).A).toBe('line')
  })
  test('the non-contact tester is an indication: with one reading it makes no line, with a second reading it is not needed', () => {
    const lit: WireReading = { ...volts('A', 'REF', 1), kind: 'contactless' }
    expect(settled(loop, [volts('A', 'REF', 121), lit, volts('B', 'REF', 0)]).A).toBeNull()
    expect(settled(loop, [volts('A', 'REF', 121), volts('A', 'C', 120), volts('B', 'REF', 0)]).A).toBe('line')
    expect(settled(loop, [lit]).A).toBeNull()
  })
  test('the year of the wiring orders, and decides nothing', () => {
    const three: AsFoundBox = { ...loop, cables: [cable('up', ['A', 'black'], ['B', 'white'], ['D', 'red'], ['C', 'bare'])] }
    const share = (wiredYear: number | null) =>
      identify({ ...three, oldSwitches: [], complete: false, wiredYear }, [])
        .wires.find((wire) => wire.letter === 'B')!
        .guesses.find((guess) => guess.role === 'neutral')!.share
    expect(share(2015)).toBeGreaterThan(share(1975))
    expect(settled({ ...loop, wiredYear: 2015 }, [])).toMatchObject({ A: null, B: null })
  })
})

describe('words of a reading (limits: common practice, no source)', () => {
  test.each([
    ['continuity', 0.4, 1],
    ['continuity', 1.4, 8],
    ['continuity', 240, 2],
    ['continuity', 1e9, 4],
    ['voltage', 0.3, 1],
    ['voltage', 60, 2],
    ['voltage', 118, 4],
    ['voltage', 240, 8],
    ['voltage', 208, 8],
  ] as const)('%s %d', (kind, value, outcome) => expect(outcomeOf(kind, value, 120)).toBe(outcome))
  test('nonsense is refused', () => {
    expect(foundBoxSchema.safeParse({ ...loop, circuits: [] }).success).toBe(false)
    expect(wireReadingSchema.safeParse({ ...volts('A', 'REF', 1), b: 'earth' }).success).toBe(false)
  })
})

const feedAndLight: AsFoundBox = {
  ...loop,
  cables: [
    cable('from the panel', ['A', 'white'], ['B', 'black'], ['C', 'bare']),
    cable('to the light', ['D', 'white'], ['E', 'black'], ['F', 'bare']),
  ],
  splices: [
    ['A', 'D'],
    ['C', 'F'],
  ],
  oldSwitches: [{ contacts: 'single', terminals: { a: ['B'], b: ['E'] } }],
}
const ohms = (a: string, value: number): WireReading => ({ kind: 'continuity', a, b: 'REF', closed: [], far: [], value })

test('a box with more arrangements than can be looked at concludes nothing, and still knows what to read', () => {
  const letters = [...'ABCDEFGHIJKLMNOPQRST']
  const cables = [0, 1, 2, 3, 4].map((index) =>
    cable(`${index}`, ...letters.slice(4 * index, 4 * index + 4).map((one): [string, string] => [one, 'black'])),
  )
  const crowded: AsFoundBox = {
    ...loop,
    circuits: ['1', '2', '3'],
    farSwitches: 2,
    cables,
    splices: [['A', 'E', 'I', 'M', 'Q']],
    oldSwitches: [{ contacts: 'threeWay', terminals: { common: ['B'], t1: ['C'], t2: ['D'] } }],
  }
  const { whole, wires, state } = identify(crowded, [])
  expect({ whole, state, settled: wires.filter((wire) => wire.settled ?? wire.joint).length }).toEqual({
    whole: false,
    state: 'open',
    settled: 0,
  })
  const advice = nextTest(crowded, [], false)
  expect(advice.done === false && advice.next.tests.length).toBe(20)
})

describe('what is one metal, and what one circuit', () => {
  test('in a splice that stays closed a conductor is one metal with the others, and no more', () => {
    const read = [
      ...['A', 'C', 'D', 'F'].map((letter) => ohms(letter, 0.3)),
      volts('B', 'REF', 120),
      volts('E', 'REF', 0),
      volts('E', 'A', 0),
      volts('B', 'A', 121),
    ]
    const { wires } = identify(feedAndLight, read)
    for (const letter of ['A', 'D'])
      expect(wires.find((wire) => wire.letter === letter)).toMatchObject({ settled: null, joint: { role: 'neutral', circuit: '2' } })
    // Opened, each says what it is.
    const opened: AsFoundBox = { ...feedAndLight, splices: [['C', 'F']], complete: false }
    const wiring: Wiring = {
      hertz: 60,
      nominalVolts: 120,
      circuits: circuitsOf(opened, []),
      cables: opened.cables.map(({ id, cores }) => ({ id, metres: 8, cores: cores.map(({ letter, colour }) => ({ id: letter, colour })) })),
      joins: [
        ['A.far', '2.neutral'],
        ['B.far', '2.line'],
        ['C.far', 'earth'],
        ['D.far', 'lamp:cold'],
        ['E.far', 'lamp:hot'],
        ['C.near', 'F.near'],
      ],
      parts: [{ id: 'lamp', kind: 'lamp', lamp: 'filament', watts: 60 }],
      faults: [],
    }
    const { findings } = readBox(opened, new SimulatedMeter(wiring, new Chance(3), 0, opened))
    expect(findings.wires.find((wire) => wire.letter === 'A')!.settled).toEqual({ role: 'neutral', circuit: '2' })
  })
  test('a heater, cold, reads like metal: a good box is not stopped by it', () => {
    const read = [...['A', 'C', 'D', 'F'].map((letter) => ohms(letter, 0.3)), ohms('E', 1.2)]
    expect(identify(feedAndLight, read).state).toBe('open')
    expect(identify(feedAndLight, [...read.slice(0, 4), ohms('E', 0.2)]).state).not.toBe('open')
  })
  test('with two circuits, a line is read dead with its own breaker open', () => {
    const two: AsFoundBox = { ...feedAndLight, circuits: ['2', '4'] }
    const at = (a: string, b: string, closed: string[], value: number): WireReading => ({ ...volts(a, b, value), closed })
    const both = ['2', '4']
    const read = [
      ...['A', 'C', 'D', 'F'].map((letter) => ohms(letter, 0.3)),
      at('B', 'REF', both, 120),
      at('B', 'A', both, 120),
      at('B', 'REF', ['2'], 120),
      at('E', 'REF', both, 0),
      at('E', 'A', both, 0),
    ]
    const b = (readings: WireReading[]) => identify(two, readings).wires.find((wire) => wire.letter === 'B')!.settled
    expect(b(read)).toBeNull()
    expect(b([...read, at('B', 'REF', ['4'], 0.2)])).toEqual({ role: 'line', circuit: '2' })
    expect(identify(two, [...read, at('B', 'REF', ['4'], 119)]).state).not.toBe('open')
  })
  test('a multi-wire feed: one neutral of two circuits, and the legs as they were read', () => {
    const shared: AsFoundBox = {
      ...loop,
      circuits: ['2', '4'],
      cables: [
        cable('up', ['A', 'black'], ['B', 'red'], ['C', 'white'], ['D', 'bare']),
        cable('one', ['E', 'black'], ['F', 'white'], ['G', 'bare']),
        cable('two', ['H', 'black'], ['I', 'white'], ['J', 'bare']),
      ],
      splices: [
        ['C', 'F', 'I'],
        ['D', 'G', 'J'],
      ],
      oldSwitches: [
        { contacts: 'single', terminals: { a: ['A'], b: ['E'] } },
        { contacts: 'single', terminals: { a: ['B'], b: ['H'] } },
      ],
    }
    const wiring: Wiring = {
      hertz: 60,
      nominalVolts: 120,
      circuits: circuitsOf(shared, []),
      cables: shared.cables.map(({ id, cores }) => ({ id, metres: 8, cores: cores.map(({ letter, colour }) => ({ id: letter, colour })) })),
      joins: [
        ['A.far', '2.line'],
        ['B.far', '4.line'],
        ['C.far', '2.neutral', '4.neutral'],
        ['D.far', 'earth'],
        ['E.far', 'one:hot'],
        ['F.far', 'one:cold'],
        ['H.far', 'two:hot'],
        ['I.far', 'two:cold'],
        ...shared.splices.map((letters) => letters.map((letter) => `${letter}.near`)),
      ],
      parts: ['one', 'two'].map((id) => ({ id, kind: 'lamp' as const, lamp: 'led' as const, watts: 9 })),
      faults: [],
    }
    for (const [legs, degrees] of [
      ['apart', 180],
      ['together', 0],
    ] as const) {
      const circuits = wiring.circuits.map((circuit, index) => ({ ...circuit, degrees: index * degrees }))
      const { findings, found } = readBox(shared, new SimulatedMeter({ ...wiring, circuits }, new Chance(4), 0, shared))
      expect(found).toBe(true)
      expect(findings.wires.find((wire) => wire.letter === 'C')!.joint).toMatchObject({ role: 'sharedNeutral' })
      expect(findings.best[0]).toMatchObject({ run: 'sharedFeed', legs })
    }
  })
})

test('an earth that somebody used as a line, read dead by one slip, is not called a ground', () => {
  const old = (position: number) => ({ closed: ['2'], far: [], old: [position] })
  const box: AsFoundBox = {
    nominalVolts: 120,
    circuits: ['2'],
    farSwitches: 0,
    cables: [
      { id: 'one', cores: [...'ABC'].map((letter, at) => ({ letter, colour: ['white', 'black', 'bare'][at]! })) },
      { id: 'two', cores: [...'DEF'].map((letter, at) => ({ letter, colour: ['white', 'black', 'bare'][at]! })) },
    ],
    splices: [['A', 'D']],
    oldSwitches: [{ contacts: 'single', terminals: { a: ['E'], b: ['B'] } }],
    complete: true,
  }
  const volts = (a: string, b: string, value: number, position = 0): WireReading => ({ kind: 'voltage', a, b, value, ...old(position) })
  const readings = [
    volts('A', 'REF', 0),
    volts('B', 'REF', 120),
    volts('C', 'REF', 0),
    volts('E', 'REF', 0),
    volts('F', 'REF', 0),
    volts('E', 'REF', 120, 1),
    volts('B', 'A', 120),
    volts('E', 'A', 0),
    ...['A', 'C', 'D'].map((a): WireReading => ({ kind: 'continuity', a, b: 'REF', closed: [], far: [], value: 0.3 })),
    { kind: 'continuity' as const, a: 'F', b: 'REF', closed: [], far: [], value: 1e9 },
  ]
  const last = () => identify(box, readings).wires.find(({ letter }) => letter === 'F')!
  expect(last().settled).toBeNull()
  // Between F and a load that is off, behind an electronic lamp, a meter shows nothing: that is no second word.
  readings.push(volts('E', 'F', 0.5))
  expect(last().settled).toBeNull()
  const advice = nextTest(box, readings, true)
  expect(advice).toMatchObject({ done: false, next: { energised: true, tests: [{ a: 'F' }] } })
  readings.push(volts('F', 'REF', 0, 1))
  expect(last().settled).toMatchObject({ role: 'ground' })
})

test.each([
  ['the usual dozen of ways', 24962, makeTrialBox, 0.12, 0.08, 26],
  ['more ways than are listed', 11, makeWiderBox, 0.22, 0.15, 26],
])(
  '200 generated boxes, %s: no wrong line or neutral, what a meter can tell is told, the unknown is stopped',
  (_, seed, make, share, least, mostOfNine) => {
    const tally = runTrials(seed, 200, share, make)
    expect(tally.notes.filter((note) => note.includes('called'))).toEqual([])
    expect([tally.wrong, tally.unread]).toEqual([0, 0])
    expect(tally.outside).toBeGreaterThanOrEqual(least * tally.boxes)
    expect(tally.stopped / tally.outside).toBeGreaterThanOrEqual(0.99)
    expect(tally.insideDone / tally.inside).toBeGreaterThanOrEqual(0.97)
    expect(median(tally.periods)).toBeLessThanOrEqual(1)
    // 4 over ten thousand boxes; a few hundred are a sample of them.
    expect(median(tally.readingsOver)).toBeLessThanOrEqual(4.5)
    expect(quantile(tally.readings, 0.9)).toBeLessThanOrEqual(mostOfNine)
  },
  120_000,
)
