import { simulate } from './index'

/**
 * Nobody is hurt, and nobody is stuck. The longer run, and the same with each rule switched off, is `npm run
 * test:safety`; the rules switched off are also part of `npm test`.
 */
test('a crew that obeys the program in a physical world (fixed seed)', () => {
  const report = simulate({ seed: 20_261, steps: 60_000 })
  expect(report.harms).toEqual({})
  expect(report.deadlocks).toEqual([])
  // The crew really worked: hands in boxes, breakers closed with a permit, power for a moment, work without network.
  expect(report.counts.touches).toBeGreaterThan(150)
  expect(report.counts.granted).toBeGreaterThan(400)
  expect(report.counts.offlineTouches).toBeGreaterThan(40)
  expect(report.counts.moments).toBeGreaterThan(5)
})

// A fresh seed each time is `npm run test:safety`: what it finds is played here ever after.
test.each([
  ['a lead takes an absent owner’s tag off and never hears the answer', 50_603],
  ['another day', 77_123],
])('%s', (_, seed) => {
  const report = simulate({ seed, steps: 30_000 })
  expect({ harms: report.harms, deadlocks: report.deadlocks }).toEqual({ harms: {}, deadlocks: [] })
})

test('the same seed plays the same day', () => {
  expect(simulate({ seed: 5, steps: 3000 })).toEqual(simulate({ seed: 5, steps: 3000 }))
})
