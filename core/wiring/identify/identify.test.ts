import { median, runTrials } from '../trials/run-trials'
import { identify } from './identify'
import { nextTest } from './next-test'
import { outcomeOf, type FoundBox, type WireReading } from './found-box'
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
  expect(tally.wrong).toBe(0)
  expect(tally.outside).toBeGreaterThanOrEqual(0.1 * tally.boxes)
  expect(tally.stopped / tally.outside).toBeGreaterThanOrEqual(0.99)
  expect(tally.insideDone / tally.inside).toBeGreaterThanOrEqual(0.95)
  expect(median(tally.periods)).toBeLessThanOrEqual(1)
}, 120_000)
