import loadGlpk from 'glpk.js/node'
import loadHighs, { type Highs } from 'highs'
import { Chance } from '../chance'
import { greedyPlan } from './greedy'
import { costCurve, optimise } from './optimise'
import { costOf, objection, type PlanProblem } from './problem'
import { inventedProblem, leastOfAll } from './testing/invented-problems'
import { leastByUnits } from './testing/by-units'

let highs: Highs
beforeAll(async () => {
  highs = await loadHighs()
})

test('two hundred small homes: the optimum is the least of all choices, looked at one by one', () => {
  const chance = new Chance(14)
  for (let home = 0; home < 200; home++) {
    const problem = inventedProblem(chance, { points: 2 + chance.int(4), ways: 3 + chance.int(3), hubs: chance.int(3) })
    const found = optimise(highs, problem, { gap: 0 })
    expect(objection(problem, found.chosen)).toBeNull()
    expect(found.weighed).toBeCloseTo(leastOfAll(problem), 3)
    expect(found.weighed).toBeCloseTo(costOf(problem, found.chosen).weighed, 6)
  }
})

test('fifty homes of middle size: another solver with another formulation comes to the same, within what is said', async () => {
  const glpk = await loadGlpk()
  const chance = new Chance(41)
  for (let home = 0; home < 50; home++) {
    const problem = inventedProblem(chance, { points: 8 + chance.int(6), ways: 5, hubs: 1 + chance.int(2) })
    const { weighed, gap } = optimise(highs, problem, { gap: 0.005 })
    const other = leastByUnits(glpk, problem)
    expect(gap).toBeLessThanOrEqual(0.005 + 1e-9)
    expect(weighed).toBeGreaterThanOrEqual(other - Math.abs(other) * 1e-6 - 0.01)
    expect(weighed).toBeLessThanOrEqual(other + Math.abs(weighed) * (gap + 1e-6) + 0.01)
  }
})

test('the plan that is there at once keeps every limit and is near the best', () => {
  const chance = new Chance(7)
  const off: number[] = []
  for (let home = 0; home < 40; home++) {
    const problem = inventedProblem(chance, { points: 20, ways: 8, hubs: 2 })
    const start = greedyPlan(problem)
    expect(objection(problem, start)).toBeNull()
    const best = optimise(highs, problem, { gap: 0.005, seconds: 10 })
    off.push(costOf(problem, start).weighed / best.weighed - 1)
  }
  expect(Math.max(...off)).toBeLessThan(0.1)
})

test('progress never gets worse, and says how near it is', () => {
  const seen: { weighed: number; gap: number }[] = []
  const problem = inventedProblem(new Chance(3), { points: 30, ways: 10, hubs: 2 })
  const found = optimise(highs, problem, { onProgress: ({ weighed, gap }) => seen.push({ weighed, gap }) })
  expect(seen.length).toBeGreaterThan(0)
  for (const [index, one] of seen.entries()) if (index) expect(one.weighed).toBeLessThanOrEqual(seen[index - 1]!.weighed + 1e-6)
  expect(found.proven).toBe(true)
  expect(found.gap).toBeLessThanOrEqual(0.005)
})

test('the curve: more money never does less, and nobody gets more for less', () => {
  const problem = inventedProblem(new Chance(5), { points: 12, ways: 6, hubs: 1 })
  const told: number[] = []
  const curve = costCurve(highs, problem, 12, ({ moneyCents }) => told.push(moneyCents))
  expect(told).toEqual(curve.map(({ moneyCents }) => moneyCents))
  expect(curve.length).toBeGreaterThan(3)
  for (const [index, one] of curve.entries()) {
    expect(objection(problem, one.chosen)).toBeNull()
    if (index) expect(one.comfort).toBeGreaterThan(curve[index - 1]!.comfort)
    if (index) expect(one.moneyCents).toBeGreaterThan(curve[index - 1]!.moneyCents)
  }
  // Of all plans at the cheapest price none does more, and none costs less.
  const cheapest = optimise(highs, moneyOnly(problem), { gap: 0 })
  expect(curve[0]!.moneyCents).toBeCloseTo(costOf(problem, cheapest.chosen).moneyCents, 0)
})
const moneyOnly = (problem: PlanProblem): PlanProblem => ({
  ...problem,
  weights: { comfortCents: 0, callbackCents: 0, years: 0, leaning: {} },
  solutions: problem.solutions.map((one) => ({ ...one, againCents: 0, leanCents: 0 })),
  charges: Object.fromEntries(Object.entries(problem.charges).map(([key, one]) => [key, one.money ? one : { ...one, cents: 0 }])),
})

test('a point without any way is said, not left out', () => {
  const problem = inventedProblem(new Chance(1), { points: 3, ways: 3, hubs: 0 })
  const lost = { ...problem, solutions: problem.solutions.filter(({ pointIds }) => !pointIds.includes('p1')) }
  expect(() => optimise(highs, lost)).toThrow(/no solution/)
})
