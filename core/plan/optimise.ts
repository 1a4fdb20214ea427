import type { Highs, Model } from 'highs'
import { greedyPlan } from './greedy'
import { chosenIn, columnsOf, programOf, type Program } from './program'
import { costOf, objection, type PlanProblem, type Solution } from './problem'

export interface Progress {
  chosen: Solution[]
  weighed: number
  /** Between the best plan and what is proven: 0.01 is one per cent. Infinity: nothing proven yet. */
  gap: number
}
export interface OptimisedPlan extends Progress {
  proven: boolean
}
export interface OptimiseOptions {
  /** Stop when so near to what is proven. */
  gap?: number
  seconds?: number
  /** A better plan, or a smaller gap. */
  onProgress?: (progress: Progress) => void
}

function modelOf(highs: Highs, program: Program): Model {
  const starts = [0]
  const indices: number[] = []
  const values: number[] = []
  for (const { entries } of program.rows) {
    for (const [column, value] of entries) {
      indices.push(column)
      values.push(value)
    }
    starts.push(indices.length)
  }
  const finite = (bound: number) => (bound === Infinity ? highs.infinity : bound === -Infinity ? -highs.infinity : bound)
  const { integer, continuous } = highs.constants.variableType
  return highs.createModel({
    numCols: program.costs.length,
    numRows: program.rows.length,
    colCost: program.costs,
    colLower: program.costs.map(() => 0),
    colUpper: program.upper,
    rowLower: program.rows.map(({ lower }) => finite(lower)),
    rowUpper: program.rows.map(({ upper }) => finite(upper)),
    matrix: {
      format: 'csr',
      numRows: program.rows.length,
      numCols: program.costs.length,
      starts: Int32Array.from(starts),
      indices: Int32Array.from(indices),
      values: Float64Array.from(values),
    },
    integrality: program.whole.map((whole) => (whole ? integer : continuous)),
  })
}

/**
 * The best choice for a home and how far from the best it may be, beginning with the greedy one.
 * @throws when some point has no solution
 */
export function optimise(highs: Highs, problem: PlanProblem, options: OptimiseOptions = {}): OptimisedPlan {
  const { gap = 0.005, seconds = 30, onProgress } = options
  const start = greedyPlan(problem)
  const begun = costOf(problem, start)
  onProgress?.({ chosen: start, weighed: begun.weighed, gap: Infinity })
  const program = programOf(problem)
  const model = modelOf(highs, program)
  try {
    model.options.set({ output_flag: false, time_limit: seconds, mip_rel_gap: gap, random_seed: 1 })
    model.setSolution({ colValue: Float64Array.from(columnsOf(problem, start, begun.hubs)) })
    let best: Progress = { chosen: start, weighed: begun.weighed, gap: Infinity }
    const { mipImprovingSolution, mipLogging } = highs.constants.callbackType
    const tell = (columns: ArrayLike<number> | undefined, known: number | undefined) => {
      const chosen = columns ? chosenIn(problem, columns) : best.chosen
      if (columns && objection(problem, chosen)) return undefined
      const { weighed } = columns ? costOf(problem, chosen) : best
      if (weighed > best.weighed + 1e-6 || (chosen === best.chosen && known === best.gap)) return undefined
      best = { chosen, weighed, gap: known !== undefined && known >= 0 ? known : best.gap }
      onProgress?.(best)
      return undefined
    }
    model.run({
      [mipImprovingSolution]: ({ data }) => tell(data.mip_solution, data.mip_gap),
      [mipLogging]: ({ data }) => tell(undefined, data.mip_gap),
    })
    const status = model.getModelStatus()
    const { optimal, timeLimit } = highs.constants.modelStatus
    if (status !== optimal && status !== timeLimit) throw new Error(`No plan was found (${status}).`)
    const found = chosenIn(problem, model.getSolution().colValue)
    const weighed = objection(problem, found) ? Infinity : costOf(problem, found).weighed
    const chosen = weighed <= best.weighed + 1e-6 ? found : best.chosen
    const left = model.info.get('mip_gap')
    return { chosen, weighed: Math.min(weighed, best.weighed), gap: Number(left), proven: status === optimal }
  } finally {
    model.dispose()
  }
}

export interface CurvePoint {
  moneyCents: number
  comfort: number
  chosen: Solution[]
}
/** Solves a home again and again, for comfort within a budget: the model is made once. */
class ComfortSearch {
  private readonly program: Program
  private readonly model: Model
  private readonly comfortCosts: number[]
  private readonly moneyCosts: number[]
  constructor(
    private readonly highs: Highs,
    private readonly problem: PlanProblem,
  ) {
    this.program = programOf(problem)
    this.model = modelOf(highs, this.program)
    this.model.options.set({ output_flag: false, time_limit: 6, mip_rel_gap: 0.002, random_seed: 1 })
    const money = new Map(this.program.rows[this.program.moneyRow]!.entries)
    this.moneyCosts = this.program.costs.map((_, column) => money.get(column) ?? 0)
    const perPoint = 1 / Math.max(1, problem.pointIds.length)
    this.comfortCosts = this.program.costs.map((_, column) => {
      const solution = problem.solutions[column]
      // A cent decides only between plans of one comfort.
      return (solution ? -solution.comfort * solution.pointIds.length * perPoint : 0) + 1e-7 * this.moneyCosts[column]!
    })
  }
  private solve(costs: number[], most: number): Solution[] | null {
    const { highs, model, program, problem } = this
    model.changeColsCost({ kind: 'range', from: 0, to: costs.length - 1 }, costs)
    model.changeRowBounds(program.moneyRow, -highs.infinity, most === Infinity ? highs.infinity : most)
    model.run()
    const { optimal, timeLimit } = highs.constants.modelStatus
    if (![optimal, timeLimit].some((status) => status === model.getModelStatus())) return null
    const chosen = chosenIn(problem, model.getSolution().colValue)
    return objection(problem, chosen) ? null : chosen
  }
  cheapest = () => this.solve(this.moneyCosts, Infinity)
  within = (most: number) => this.solve(this.comfortCosts, most)
  dispose = () => this.model.dispose()
}

/** The plan with the most comfort that costs no more than this; null: there is none. */
export function bestWithin(highs: Highs, problem: PlanProblem, mostCents: number): Solution[] | null {
  const search = new ComfortSearch(highs, problem)
  try {
    return search.within(mostCents)
  } finally {
    search.dispose()
  }
}

export interface CurvePoint {
  moneyCents: number
  comfort: number
  chosen: Solution[]
}
/**
 * What money buys: for so many budgets between the cheapest plan and the most comfortable one, the plan with the most comfort
 * that stays within. Each is told as soon as it is found, from the cheapest on; none that costs more and does no more is told.
 */
export function costCurve(highs: Highs, problem: PlanProblem, count: number, onPoint: (point: CurvePoint) => void): CurvePoint[] {
  const search = new ComfortSearch(highs, problem)
  const points: CurvePoint[] = []
  const keep = (chosen: Solution[] | null) => {
    if (!chosen) return
    const { moneyCents, comfort } = costOf(problem, chosen)
    const last = points.at(-1)
    if (last && (comfort <= last.comfort + 1e-6 || moneyCents <= last.moneyCents + 0.5)) return
    points.push({ moneyCents, comfort, chosen })
    onPoint(points.at(-1)!)
  }
  try {
    const cheapest = search.cheapest()
    const best = search.within(Infinity)
    if (!cheapest || !best) return []
    const low = costOf(problem, cheapest).moneyCents
    const high = costOf(problem, best).moneyCents
    // Of the plans that cost least, the one that does most.
    keep(search.within(low + 0.5) ?? cheapest)
    for (let step = 1; step < count - 1; step++) keep(search.within(low + ((high - low) * step) / (count - 1)))
    keep(best)
    return points
  } finally {
    search.dispose()
  }
}
