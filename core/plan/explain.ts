import { costOf, objection, type PlanCost, type PlanProblem, type Solution } from './problem'

/** What another way for a point would change, everything else as it is. */
export interface Alternative {
  solution: Solution
  /** More or less of each. */
  moneyCents: number
  comfort: number
  weighed: number
  callbacksPerYear: number
  apps: number
  hubs: number
  /** The whole plan with it. */
  chosen: Solution[]
  /** Other points that it changes too. */
  alsoPointIds: string[]
}
const appsOf = (chosen: readonly Solution[]) => new Set(chosen.flatMap(({ needs }) => needs.filter((key) => key.startsWith('app:')))).size
const hubsOf = ({ hubs }: PlanCost) => Object.values(hubs).reduce((sum, count) => sum + count, 0)
const callbacksOf = (chosen: readonly Solution[]) => chosen.reduce((sum, { callbacksPerYear }) => sum + callbacksPerYear, 0)

/**
 * What else could be done with a point, the nearest in what is weighed first. Where another way needs or frees another point, that
 * point takes what suits it best beside it.
 */
export function alternativesFor(problem: PlanProblem, chosen: readonly Solution[], pointId: string): Alternative[] {
  const now = costOf(problem, chosen)
  const best = new Map<string, Alternative>()
  for (const solution of problem.solutions) {
    if (!solution.pointIds.includes(pointId) || chosen.includes(solution)) continue
    const kept = chosen.filter(({ pointIds }) => !pointIds.some((id) => solution.pointIds.includes(id)))
    const solved = new Set([...kept, solution].flatMap(({ pointIds }) => pointIds))
    const open = problem.pointIds.filter((id) => !solved.has(id))
    let next: Solution[] = [...kept, solution]
    for (const id of open) {
      const ways = problem.solutions
        .filter(({ pointIds }) => pointIds.length === 1 && pointIds[0] === id)
        .map((one) => [...next, one])
        .filter((plan) => objection(problem, plan) !== 'limit' && objection(problem, plan) !== 'twice')
        .sort((a, b) => costOf(problem, a).weighed - costOf(problem, b).weighed)
      if (!ways[0]) break
      next = ways[0]
    }
    if (objection(problem, next)) continue
    const then = costOf(problem, next)
    const one: Alternative = {
      solution,
      moneyCents: then.moneyCents - now.moneyCents,
      comfort: then.comfort - now.comfort,
      weighed: then.weighed - now.weighed,
      callbacksPerYear: callbacksOf(next) - callbacksOf(chosen),
      apps: appsOf(next) - appsOf(chosen),
      hubs: hubsOf(then) - hubsOf(now),
      chosen: next,
      alsoPointIds: [...new Set([...solution.pointIds.filter((id) => id !== pointId), ...open])],
    }
    const known = best.get(solution.kind)
    if (!known || one.weighed < known.weighed) best.set(solution.kind, one)
  }
  return [...best.values()].sort((a, b) => a.weighed - b.weighed)
}

export interface PlanChange {
  pointIds: string[]
  from: Solution[]
  to: Solution[]
}
/** Where two plans differ, point by point; points that are solved together in either stand together. */
export function differenceOf(before: readonly Solution[], after: readonly Solution[]): PlanChange[] {
  const changed = [
    ...before.filter((one) => !after.some(({ id }) => id === one.id)),
    ...after.filter((one) => !before.some(({ id }) => id === one.id)),
  ]
  const groups: Set<string>[] = []
  for (const { pointIds } of changed) {
    const touching = groups.filter((group) => pointIds.some((id) => group.has(id)))
    const joined = new Set([...touching.flatMap((group) => [...group]), ...pointIds])
    for (const group of touching) groups.splice(groups.indexOf(group), 1)
    groups.push(joined)
  }
  const within = (solutions: readonly Solution[], group: Set<string>) =>
    solutions.filter(({ pointIds }) => pointIds.some((id) => group.has(id)))
  return groups.map((group) => ({ pointIds: [...group], from: within(before, group), to: within(after, group) }))
}

export interface PlanSummary {
  cost: PlanCost
  apps: string[]
  radios: string[]
  callbacksPerYear: number
  /** Points that still work from the wall, from a remote, or not at all, with the internet down. */
  offline: Record<'wall' | 'remote' | 'nothing', number>
  left: number
}
export function summaryOf(
  problem: PlanProblem,
  chosen: readonly Solution[],
  told: Record<string, { offline: 'wall' | 'remote' | 'nothing' }>,
): PlanSummary {
  const keys = [...new Set(chosen.flatMap(({ needs }) => needs))]
  const named = (kind: string) => keys.flatMap((key) => (key.startsWith(`${kind}:`) ? [key.slice(kind.length + 1)] : [])).sort()
  const offline = { wall: 0, remote: 0, nothing: 0 }
  for (const { id, pointIds } of chosen) offline[told[id]?.offline ?? 'wall'] += pointIds.length
  return {
    cost: costOf(problem, chosen),
    apps: named('app'),
    radios: named('radio'),
    callbacksPerYear: callbacksOf(chosen),
    offline,
    left: chosen.filter(({ kind }) => kind === 'leave').length,
  }
}
