import { annexRule, circuitPasses, judgeCircuit, loopLimit, type CircuitReadings } from '.'

const good: CircuitReadings = {
  curve: 'B',
  amps: 16,
  lookedUp: null,
  continuity: 0.45,
  insulation: 200,
  insulationVolts: 500,
  devicesIn: false,
  polarity: 'right',
  loop: 1.1,
  residual: { milliamps: 30, kind: 'general', atOne: 24, atFive: 12, button: true },
}
const judged = (over: Partial<CircuitReadings>, rule = annexRule) => judgeCircuit({ ...good, ...over }, rule)
const result = (over: Partial<CircuitReadings>, id: string, rule = annexRule) => judged(over, rule).find((line) => line.id === id)?.result

test('a good circuit passes, and nothing passes that was not measured', () => {
  expect(circuitPasses(judged({}))).toBe(true)
  for (const [what, nothing] of [
    ['continuity', { continuity: null }],
    ['insulation', { insulation: null }],
    ['polarity', { polarity: null }],
    ['loop', { loop: null }],
    ['atOne', { residual: { ...good.residual!, atOne: null } }],
    ['button', { residual: { ...good.residual!, button: null } }],
  ] as const) {
    expect([what, result(nothing, what)]).toEqual([what, 'missing'])
    expect([what, circuitPasses(judged(nothing))]).toEqual([what, false])
  }
})

/**
 * Largest loop impedances U0 / Ia for 230 V, ohms: IEC 60898-1 curves at 5, 10 and 20 times, as in the tables of maximum earth
 * fault loop impedance that national wiring rules print for 230 V (rounded there to two decimals); 2/3 of it by the annex of IEC 60364-6.
 */
test.each([
  ['B', 6, 7.67],
  ['B', 10, 4.6],
  ['B', 16, 2.88],
  ['B', 32, 1.44],
  ['C', 6, 3.83],
  ['C', 16, 1.44],
  ['C', 32, 0.72],
  ['D', 16, 0.72],
] as const)('%s %i A: %d Ω warm', (curve, amps, warm) => {
  expect(loopLimit({ curve, amps, lookedUp: null }, { volts: 230, share: 1 })).toBeCloseTo(warm, 1)
  expect(loopLimit({ curve, amps, lookedUp: null }, annexRule)).toBeCloseTo((warm * 2) / 3, 1)
})

test('a loop that is too large for the breaker passes by the residual device alone, and without one by nothing', () => {
  expect(result({ loop: 1.9 }, 'loop', { volts: 230, share: 2 / 3 })).toBe('pass')
  const [line] = judged({ loop: 20 }).filter(({ id }) => id === 'loop')
  expect([line!.result, line!.why]).toEqual(['pass', expect.stringContaining('the residual device trips')])
  expect(result({ loop: 20, residual: null }, 'loop')).toBe('fail')
  // 30 mA would trip at a thousand ohms; an earth of that is a broken conductor.
  expect([result({ loop: 199 }, 'loop'), result({ loop: 900 }, 'loop')]).toEqual(['pass', 'fail'])
  expect(result({ loop: 1.95, residual: null }, 'loop')).toBe('fail')
  expect(result({ loop: 1.95, residual: null }, 'loop', { volts: 230, share: 0.8 })).toBe('pass')
  // A fuse: its current is looked up, and nothing is called good before. A gG 16 A fuse trips within 0.4 s at 107 A: 2.15 Ω warm
  // (IEC 60269-2 gates, as national wiring rules print them; from memory).
  expect(result({ curve: null, residual: null, loop: 0.1 }, 'loop')).toBe('fail')
  expect(loopLimit({ curve: null, amps: 16, lookedUp: 107 }, { volts: 230, share: 1 })).toBeCloseTo(2.15, 2)
  expect(result({ curve: null, lookedUp: 107, residual: null, loop: 1.4 }, 'loop')).toBe('pass')
  expect(result({ curve: null, lookedUp: 107, residual: null, loop: 1.5 }, 'loop')).toBe('fail')
})

// IEC 61008-1, table 1: general type 300 ms at IΔn, 40 ms at 5 IΔn; type S 130 to 500 ms, 50 to 150 ms.
test.each([
  ['general', 'atOne', 300, 301],
  ['general', 'atFive', 40, 41],
  ['delayed', 'atOne', 130, 129],
  ['delayed', 'atOne', 500, 501],
  ['delayed', 'atFive', 150, 151],
] as const)('%s, %s: %i ms passes, %i does not', (kind, at, pass, fail) => {
  const residual = { ...good.residual!, kind, atOne: kind === 'delayed' ? 200 : 20, atFive: kind === 'delayed' ? 60 : 10 }
  expect(result({ residual: { ...residual, [at]: pass } }, at)).toBe('pass')
  expect(result({ residual: { ...residual, [at]: fail } }, at)).toBe('fail')
})
test('a residual device that trips in no time at all was not there', () => {
  expect(result({ residual: { ...good.residual!, atOne: 0 } }, 'atOne')).toBe('fail')
})

// IEC 60364-6, 6.4.3.3 and its table: 1 MΩ at 500 V; 250 V where devices cannot be taken off, and 1 MΩ all the same.
test('insulation: one megohm, and electronics are not tested with 500 V', () => {
  expect(result({ insulation: 1 }, 'insulation')).toBe('pass')
  expect(result({ insulation: 0.99 }, 'insulation')).toBe('fail')
  expect(result({ devicesIn: true, insulationVolts: 250, insulation: 1 }, 'insulation')).toBe('pass')
  expect(result({ devicesIn: true, insulationVolts: 250, insulation: 0.9 }, 'insulation')).toBe('fail')
  const [line] = judged({ devicesIn: true, insulationVolts: 500 }).filter(({ id }) => id === 'insulation')
  expect([line!.result, line!.why]).toEqual(['fail', expect.stringContaining('500 V may have hurt them')])
})
test('a protective conductor of many ohms is none, whatever the residual device would do', () => {
  expect([result({ continuity: 4.9, loop: 5 }, 'continuity'), result({ continuity: 12, loop: 15 }, 'continuity')]).toEqual(['pass', 'fail'])
  expect(result({ continuity: 1.95, loop: 1.9, residual: null }, 'continuity')).toBe('fail')
})
test('what local rules do not ask for may stay unmeasured, but not fail', () => {
  const residual = { ...good.residual!, atFive: null }
  expect([result({ residual }, 'atFive'), circuitPasses(judged({ residual }))]).toEqual(['missing', true])
  expect(circuitPasses(judged({ residual: { ...residual, atFive: 90 } }))).toBe(false)
})
test('a loop of nothing was read on nothing', () => {
  expect([result({ loop: 0 }, 'plausible'), circuitPasses(judged({ loop: 0, continuity: 0 }))]).toEqual(['fail', false])
})
test('a part that has more than the whole was read wrong', () => {
  expect(result({ continuity: 1.2, loop: 0.8 }, 'plausible')).toBe('fail')
  expect(result({ continuity: 0.85, loop: 0.8 }, 'plausible')).toBeUndefined()
})
