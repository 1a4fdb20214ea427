// npm run bench:plan: how soon a plan of a whole home stands, how near it is to what is proven, and how long the curve takes.
import loadHighs from 'highs'
import { createJiti } from 'jiti'
import { say } from '../lib/host.mjs'

const jiti = createJiti(import.meta.url)
const load = (path) => jiti.import(`../../${path}`)
const { Chance } = await load('core/chance.ts')
const { greedyPlan } = await load('core/plan/greedy.ts')
const { costCurve, optimise } = await load('core/plan/optimise.ts')
const { costOf, leaned, waysOf, weightsOf } = await load('core/plan/index.ts')
const { inventedProblem } = await load('core/plan/testing/invented-problems.ts')
const { sourceOf } = await load('core/plan/testing/invented-list.ts')
const { wideFile } = await load('core/plan/testing/wide-home.ts')
const { Scenario } = await load('core/testing/scenario.ts')

const timed = (work) => {
  const began = performance.now()
  const value = work()
  return { value, took: performance.now() - began }
}
const baseline = timed(() => {
  let sum = 0
  for (let index = 1; index < 1_000_000; index++) sum += Math.log10(index)
  return sum
}).took
const line = (what, value, wanted, unit) =>
  say(`${value <= wanted ? 'ok  ' : 'MISS'} ${what}: ${value.toFixed(unit === '%' ? 2 : 0)} ${unit} (wanted ${wanted})`)
say(`loop of a million logarithms: ${baseline.toFixed(1)} ms`)

const highs = await loadHighs()
const homes = Number(process.argv.find((one) => one.startsWith('--homes='))?.slice(8) ?? 10)
const chance = new Chance(60)
const seen = { first: [], off: [], gap: [], took: [] }
for (let home = 0; home < homes; home++) {
  const problem = inventedProblem(chance, { points: 60, ways: 12, hubs: 3 })
  const first = timed(() => greedyPlan(problem))
  const best = timed(() => optimise(highs, problem, { gap: 0.01, seconds: 10 }))
  seen.first.push(first.took)
  seen.off.push((costOf(problem, first.value).weighed / best.value.weighed - 1) * 100)
  seen.gap.push(best.value.gap * 100)
  seen.took.push(best.took)
}
const ninth = (values) => values.toSorted((a, b) => a - b)[Math.ceil(values.length * 0.9) - 1]
line('first plan, 60 points × 12 ways, nine of ten', ninth(seen.first), 500, 'ms')
line('first plan above the final one, worst', Math.max(...seen.off), 10, '%')
line('proven gap after at most 10 s, nine of ten', ninth(seen.gap), 1, '%')
say(`     time until then: ${seen.took.map((took) => `${(took / 1000).toFixed(1)} s`).join(', ')}`)

const large = inventedProblem(new Chance(200), { points: 200, ways: 12, hubs: 3 })
const found = timed(() => optimise(highs, large, { gap: 0.01, seconds: 30 }))
line('proven gap of 200 points after at most 30 s', found.value.gap * 100, 1, '%')
say(`     time until then: ${(found.took / 1000).toFixed(1)} s`)
const middle = inventedProblem(new Chance(61), { points: 60, ways: 12, hubs: 3 })
const told = []
const curve = timed(() => costCurve(highs, middle, 12, () => told.push(performance.now())))
say(
  `curve of ${curve.value.length} plans: ${(curve.took / 1000).toFixed(1)} s, the first after ${((told[0] - (performance.now() - curve.took)) / 1000).toFixed(1)} s`,
)

// A home as a screen has it: every way for 60 points, then the first plan.
const rows = Array.from({ length: 8 }, (_, copy) => copy)
const wide = {
  ...wideFile,
  boxes: rows.flatMap((copy) => wideFile.boxes.map((box) => ({ ...box, key: `${box.key}${copy}`, name: `${box.name} ${copy}` }))),
  points: rows.flatMap((copy) =>
    wideFile.points.map((point) => ({
      ...point,
      name: `${point.name} ${copy}`,
      controls: point.controls.map((control) => ({ ...control, box: `${control.box}${copy}` })),
    })),
  ),
}
const source = sourceOf(new Scenario(wide))
const ways = timed(() => waysOf(source))
const plan = timed(() => greedyPlan(leaned(ways.value.problem, weightsOf('switches', 8))))
line(
  `every way for ${ways.value.problem.pointIds.length} points (${ways.value.problem.solutions.length}), and a first plan`,
  ways.took + plan.took,
  500,
  'ms',
)
