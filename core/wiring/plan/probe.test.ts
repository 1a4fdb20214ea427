import { practiceBoxes } from '../practice'
import { readToTheEnd } from '../practice/read-to-the-end'
import { homeOf, knownCables, proposePlan } from './plan'
import { probe, probedAlike, probedWords, probeEnds } from './probe'
import { verify } from './verify'

function planned(id: string) {
  const box = practiceBoxes.find((one) => one.id === id)!
  const cables = knownCables(box.found, readToTheEnd(box, 3).findings)!
  const plan = proposePlan(box.found, cables, box.devices, box)
  const home = homeOf(box.found, cables, plan, box.devices, box.loads)
  const { table } = verify(box.found, cables, plan, home, { order: 'groundNeutralLoadLine', metric: false, gauge: '14 AWG' })
  return { box, home, table }
}

describe('what the meter should show at the new wiring', () => {
  const { home, table } = planned('sail-room')
  const shown = (a: string, b: string, ...faults: Parameters<typeof probe>[3][]) => probe(home, table, [a, b], ...faults)
  test('line to neutral is there in every position, and the tester at line is lit (wiring theory)', () => {
    for (const row of shown('A', 'B')) {
      expect(row.shown!.low).toBeGreaterThan(115)
      expect(row.shown!.lit).toBe(true)
    }
  })
  test('load to neutral follows the device', () => {
    const volts = shown('gang1:load', 'gang1:neutral').map((row, index) => [table[index]!.positions.gang1, Math.round(row.shown!.low)])
    for (const [on, value] of volts) expect(value! > 100).toBe(on === 1)
  })
  test('conductors in one connector beep; neutral and ground are bonded at the panel (NEC 250.24, from memory)', () => {
    expect(probedWords(shown('B', 'E')[0]!, 120).dead).toBe('it beeps')
    expect(probedWords(shown('B', 'REF')[0]!, 120).dead).toBe('it beeps')
  })
  test('an interrupted line: nothing, whatever the position', () => {
    for (const row of shown('gang1:line', 'gang1:neutral', [{ kind: 'open', coreId: 'A' }])) expect(row.shown!.low).toBeLessThan(5)
  })
  test('line on ground trips its breaker; what another breaker keeps live is still read', () =>
    expect(probedWords(shown('A', 'B', [{ kind: 'contact', a: 'gang1:line', b: 'earth' }])[0]!, 120).live).toBe(
      '{breaker} 2 trips, then 0 V, non-contact tester dark',
    ))
  test('a fault shows where an instrument tells it from the plan, not where it moves a digit', () => {
    const alike = (a: string, b: string, fault: Parameters<typeof probe>[3]) => probedAlike(shown(a, b)[0]!, shown(a, b, fault)[0]!, 120)
    expect(alike('A', 'B', [{ kind: 'open', coreId: 'D' }])).toBe(true)
    expect(alike('A', 'B', [{ kind: 'open', coreId: 'A' }])).toBe(false)
    expect(alike('D', 'REF', [{ kind: 'welded', partId: 'gang1' }])).toBe(false)
  })
  test('every conductor, every terminal and ground can be probed', () =>
    expect(probeEnds(home).map((end) => end.value)).toEqual([
      ...'ABCDEFGHIJKL',
      ...[1, 2].flatMap((gang) => ['ground', 'neutral', 'load', 'line'].map((name) => `gang${gang}:${name}`)),
      'REF',
    ]))
})

test('3-way: exactly one traveler is live, and it changes with the other switch (common practice, no source)', () => {
  const { home, table } = planned('landing')
  const live = (letter: string) => probe(home, table, [letter, 'REF']).map((row) => row.shown!.low > 115)
  expect(live('D').map((value, index) => value !== live('F')[index])).toEqual([true, true, true, true])
})
test('a conductor that floats beside a live one: a ghost for a high-impedance meter, nothing for a low one (common practice, no source)', () => {
  const { home, table } = planned('cellar-stairs')
  const [off, on] = probe(home, table, ['D', 'REF'])
  expect(on!.shown!.low).toBeLessThan(3)
  expect(on!.shown!.high).toBeGreaterThan(20)
  expect(probedWords(on!, 120).live).toMatch(/^0(\.\d)? V \(a high-impedance meter may show \d+(\.\d)? V, a ghost\)/)
  expect(probedWords(off!, 120).live).not.toContain('ghost')
})
