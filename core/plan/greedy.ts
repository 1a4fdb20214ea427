import { chargeCents, costOf, hubCents, hubsFor, objection, weighedAlone, type PlanProblem, type Solution } from './problem'

/** What a part of a choice has taken already. */
class Taken {
  readonly used: Record<string, number> = {}
  readonly charged = new Set<string>()
  readonly onHub: Record<string, number> = {}
  readonly solved = new Set<string>()
  readonly chosen: Solution[] = []
  constructor(readonly problem: PlanProblem) {}

  fits(solution: Solution): boolean {
    if (solution.pointIds.some((id) => this.solved.has(id))) return false
    return Object.entries(solution.uses).every(
      ([key, amount]) => (this.used[key] ?? 0) + amount <= (this.problem.limits[key] ?? Infinity) + 1e-9,
    )
  }
  /** What it adds, `hubShare` 0: hubs are free, 1: as they would be bought. */
  adds(solution: Solution, hubShare: number): number {
    let cents = weighedAlone(this.problem, solution)
    for (const key of solution.needs) if (!this.charged.has(key)) cents += chargeCents(this.problem, this.problem.charges[key]!)
    for (const [key, devices] of Object.entries(solution.onHub)) {
      const hub = this.problem.hubs[key]!
      const before = this.onHub[key] ?? 0
      cents += (hubsFor(hub, before + devices) - hubsFor(hub, before)) * hubCents(this.problem, hub) * hubShare
    }
    return cents
  }
  take(solution: Solution): void {
    this.chosen.push(solution)
    for (const id of solution.pointIds) this.solved.add(id)
    for (const [key, amount] of Object.entries(solution.uses)) this.used[key] = (this.used[key] ?? 0) + amount
    for (const key of solution.needs) this.charged.add(key)
    for (const [key, devices] of Object.entries(solution.onHub)) this.onHub[key] = (this.onHub[key] ?? 0) + devices
  }
}

/** Solves every open point by what adds least for each point it solves; null: some point is left without a way. */
function fill(problem: PlanProblem, kept: readonly Solution[], hubShare: number, allowed = problem.solutions): Solution[] | null {
  const taken = new Taken(problem)
  for (const solution of kept) taken.take(solution)
  const waysOf = new Map(problem.pointIds.map((id) => [id, [] as Solution[]]))
  for (const solution of allowed) for (const id of solution.pointIds) waysOf.get(id)?.push(solution)
  for (;;) {
    const open = problem.pointIds.filter((id) => !taken.solved.has(id))
    if (!open.length) return taken.chosen
    // The point with the fewest ways left goes first: later it may have none.
    const ways = open.map((id) => waysOf.get(id)!.filter((solution) => taken.fits(solution)))
    const [next] = ways.sort((a, b) => a.length - b.length)
    if (!next?.length) return null
    const price = (solution: Solution) => taken.adds(solution, hubShare) / solution.pointIds.length
    taken.take(next.reduce((best, one) => (price(one) < price(best) ? one : best)))
  }
}

/** Changes one solution at a time, or what stands in its way with it, as long as that is worth it. */
function mend(problem: PlanProblem, start: Solution[], rounds: number): Solution[] {
  let best = start
  let least = costOf(problem, best).weighed
  for (let round = 0; round < rounds; round++) {
    let better = false
    for (const candidate of problem.solutions) {
      if (best.includes(candidate)) continue
      const kept = best.filter(({ pointIds }) => !pointIds.some((id) => candidate.pointIds.includes(id)))
      // What takes the same place gives way too.
      const others = kept.filter(({ uses }) => {
        const clash = Object.keys(candidate.uses).some(
          (key) => key in uses && (uses[key] ?? 0) + candidate.uses[key]! > (problem.limits[key] ?? Infinity) + 1e-9,
        )
        return !clash
      })
      const freed = candidate.pointIds.length + kept.length - others.length
      const next = freed === 1 && others.length === best.length - 1 ? [...others, candidate] : fill(problem, [...others, candidate], 1)
      if (!next || objection(problem, next)) continue
      const weighed = costOf(problem, next).weighed
      if (weighed < least - 1e-6) {
        best = next
        least = weighed
        better = true
      }
    }
    if (!better) break
  }
  return best
}

/**
 * A good plan at once: from several beginnings (hubs as bought, hubs for nothing, no hub at all, each hub left out) the best,
 * then changed one by one.
 * @throws when there is a point that nothing solves
 */
export function greedyPlan(problem: PlanProblem): Solution[] {
  const without = (key: string) => problem.solutions.filter(({ onHub }) => !(key in onHub))
  const beginnings = [
    fill(problem, [], 1),
    fill(problem, [], 0),
    fill(
      problem,
      [],
      1,
      problem.solutions.filter(({ onHub }) => !Object.keys(onHub).length),
    ),
    ...Object.keys(problem.hubs).map((key) => fill(problem, [], 0, without(key))),
  ].flatMap((plan) => (plan && !objection(problem, plan) ? [plan] : []))
  if (!beginnings.length) throw new Error('Some point has no solution at all.')
  const weighed = beginnings.map((plan) => ({ plan, cost: costOf(problem, plan).weighed })).sort((a, b) => a.cost - b.cost)
  return mend(problem, weighed[0]!.plan, 2)
}
