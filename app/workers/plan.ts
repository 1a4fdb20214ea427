import loadHighs from 'highs'
import wasmUrl from 'highs/runtime?url'
import { bestWithin, costCurve, optimise } from '../../core/plan/optimise'
import { greedyPlan } from '../../core/plan/greedy'
import { costOf, leaned, waysOf, weightsOf, type HomeWays, type PlanSource, type SchoolId, type Weights } from '../../core/plan'

/** What is asked of the whole home: the ways there are, a plan for each school, and what money buys. */
export interface PlanQuestion {
  source: PlanSource
  schools: SchoolId[]
  /** Weights that the office moved. */
  over: Partial<Weights>
  curvePoints: number
}
/** Told as it is found: ways first, a plan at once, then better ones. */
export type PlanAnswer =
  | { is: 'ways'; ways: HomeWays }
  | { is: 'plan'; school: SchoolId; ids: string[]; weighed: number; gap: number | null; done: boolean }
  /** What so much more would buy: the plan with the most comfort within it. */
  | { is: 'more'; school: SchoolId; ids: string[] }
  | { is: 'curve'; moneyCents: number; comfort: number; ids: string[] }
  | { is: 'done' }

/** So much more is tried on each plan. */
const moreCents = 5000
const say = (answer: PlanAnswer) => self.postMessage(answer)
const idsOf = (chosen: { id: string }[]) => chosen.map(({ id }) => id)

self.onmessage = async ({ data: { source, schools, over, curvePoints } }: MessageEvent<PlanQuestion>) => {
  const ways = waysOf(source)
  say({ is: 'ways', ways })
  if (!ways.problem.pointIds.length) return say({ is: 'done' })
  const problems = schools.map((school) => ({ school, problem: leaned(ways.problem, weightsOf(school, source.household.years, over)) }))
  for (const { school, problem } of problems) {
    const chosen = greedyPlan(problem)
    say({ is: 'plan', school, ids: idsOf(chosen), weighed: costOf(problem, chosen).weighed, gap: null, done: false })
  }
  const highs = await loadHighs({ locateFile: () => wasmUrl })
  for (const { school, problem } of problems) {
    const best = optimise(highs, problem, {
      seconds: 20,
      onProgress: ({ chosen, weighed, gap }) =>
        say({ is: 'plan', school, ids: idsOf(chosen), weighed, gap: Number.isFinite(gap) ? gap : null, done: false }),
    })
    say({ is: 'plan', school, ids: idsOf(best.chosen), weighed: best.weighed, gap: best.gap, done: true })
    const { moneyCents } = costOf(problem, best.chosen)
    say({ is: 'more', school, ids: idsOf(bestWithin(highs, problem, moneyCents + moreCents) ?? best.chosen) })
  }
  costCurve(highs, problems[0]!.problem, curvePoints, ({ moneyCents, comfort, chosen }) =>
    say({ is: 'curve', moneyCents, comfort, ids: idsOf(chosen) }),
  )
  say({ is: 'done' })
}
