import { median, runTrials } from '../trials/run-trials'
import { identify } from './identify'
import { nextTest } from './next-test'
import { outcomeOf, type FoundBox, type WireReading } from './found-box'
import { practiceBoxes, practiceMeter } from '../practice'
import { foundBoxSchema, wireReadingSchema } from './found-box-schema'

const cable = (id: string, ...cores: [string, string][]) => ({ id, cores: cores.map(([letter, colour]) => ({ letter, colour })) })
const loop: FoundBox = {
  nominalVolts: 120,
  circuits: ['2'],
  farSwitches: 0,
  cables: [cable('up', ['A', 'white'], ['B', 'black'], ['C', 'bare'])],
  splices: [],
  oldSwitches: [{ contacts: 'single', terminals: { a: ['A'], b: ['B'] } }],
  complete: true,
}
const volts = (a: string, b: string, value: number): WireReading => ({ kind: 'voltage', a, b, closed: ['2'], far: [], value })
const settled = (found: FoundBox, readings: WireReading[]) =>
  Object.fromEntries(identify(found, readings).wires.map((wire) => [wire.letter, wire.settled?.role ?? null]))

describe('what counts as established', () => {
  test('colours alone establish nothing; white may be the line of a loop (NEC 200.7(C))', () => {
    expect(settled(loop, [])).toMatchObject({ A: null, B: null })
    expect(settled(loop, [volts('A', 'REF', 121), volts('B', 'REF', 0), volts('A', 'C', 121)])).toMatchObject({ A: 'line', B: 'load' })
  })
  test('a line needs a second, independent reading', () => {
    const once = identify(loop, [volts('A', 'REF', 121)])
    const a = once.wires.find((wire) => wire.letter === 'A')!
    expect(a.settled).toBeNull()
    expect(a.onceMore).toBe(true)
    expect(settled(loop, [volts('A', 'REF', 121), volts('A', 'C', 120)]).A).toBe('line')
  })
  test('a reading that fits nothing is asked for again; a second word replaces the first', () => {
    const readings = [volts('A', 'REF', 121), volts('A', 'C', 120), volts('B', 'REF', 0), volts('B', 'C', 121)]
    expect(identify(loop, readings).state).toBe('odd')
    const advice = nextTest(loop, readings, true)
    expect(advice.done === false && advice.next.purpose).toBe('repeat')
    expect(identify(loop, [...readings, volts('B', 'C', 0)]).state).toBe('open')
  })
  test('both conductors of a loop live: no arrangement, stop', () => {
    const both = [volts('A', 'REF', 121), volts('A', 'C', 120), volts('B', 'REF', 120), volts('B', 'C', 121), volts('A', 'B', 240)]
    expect(identify(loop, both).state).toBe('stop')
    expect(nextTest(loop, both, true)).toEqual({ done: true, found: false })
  })
  test('dead tests come first, then one energised period', () => {
    const first = nextTest(loop, [], false)
    expect(first.done === false && first.next.energised).toBe(false)
  })
})

describe('the old switch still attached (handbook §6, method a: live in both positions is line, what follows the switch is load)', () => {
  const attached = (a: string, position: number, value: number): WireReading => ({ ...volts(a, 'REF', value), old: [position] })
  const follows = [attached('A', 0, 120), attached('A', 1, 121), attached('B', 0, 0.2), attached('B', 1, 120)]
  test('method a alone tells both, and each is confirmed by method b', () => {
    expect(settled(loop, follows)).toMatchObject({ A: 'line', B: 'load' })
    expect(settled(loop, [attached('B', 1, 120), attached('B', 0, 0.2)]).A).toBeNull()
    expect(settled(loop, [attached('B', 0, 0.1), volts('A', 'REF', 121), volts('A', 'C', 121)])).toMatchObject({ A: 'line', B: 'load' })
  })
  test('with the switch on, both ends are one metal: no reading between them', () => {
    expect(identify(loop, [{ ...volts('A', 'B', 120), old: [1] }]).state).toBe('odd')
    expect(identify(loop, [{ ...volts('A', 'B', 120), old: [0] }]).state).toBe('open')
  })
  test('a 3-way’s lever does not say which traveler it picks: either is possible', () => {
    const box: FoundBox = {
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

describe('other instruments', () => {
  test('a high-impedance meter says nothing of a conductor that floats (ghost voltage, handbook §5)', () => {
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
    const three: FoundBox = { ...loop, cables: [cable('up', ['A', 'black'], ['B', 'white'], ['D', 'red'], ['C', 'bare'])] }
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

test('300 generated boxes: no wrong line or neutral, what a meter can tell is told, the unknown is stopped', () => {
  const tally = runTrials(11, 300)
  expect(tally.notes.filter((note) => note.includes('called'))).toEqual([])
  expect([tally.wrong, tally.unread]).toEqual([0, 0])
  expect(tally.outside).toBeGreaterThanOrEqual(0.1 * tally.boxes)
  expect(tally.stopped / tally.outside).toBeGreaterThanOrEqual(0.99)
  expect(tally.insideDone / tally.inside).toBeGreaterThanOrEqual(0.95)
  expect(median(tally.periods)).toBeLessThanOrEqual(1)
}, 120_000)
