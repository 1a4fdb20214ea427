import { runPlanTrials } from './plan-trials'

/** Plans as proposed and as somebody spoiled them, in 120 generated homes. More: npm run test:wiring. */
test('no plan that nothing was said against hurts or disappoints in the truly wired home', () => {
  const tally = runPlanTrials(3, 120)
  expect(tally.wrong).toEqual([])
  expect(tally.passed).toBeGreaterThan(150)
  // Saying no to everything is no judgement.
  expect(tally.proposalsPassed).toBeGreaterThan(0.8 * tally.boxes)
  expect(tally.refused.length).toBeLessThan(0.06 * tally.plans)
}, 120_000)
