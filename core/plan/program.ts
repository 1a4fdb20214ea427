import { chargeCents, hubCents, moneyAlone, weighedAlone, type PlanProblem, type Solution } from './problem'

/** A mixed-integer program by rows: least `costs·x` with `lower ≤ Ax ≤ upper`. */
export interface Program {
  /** Columns: first the solutions, then the charges, then the hubs. */
  costs: number[]
  upper: number[]
  whole: boolean[]
  rows: { lower: number; upper: number; entries: [column: number, value: number][] }[]
  /** What is paid in money, as a row that may be bounded. */
  moneyRow: number
}

/**
 * The choice of a home as a program: every point once, what is limited within its limit, what is shared paid once, hubs in
 * whole numbers. Shared things are bound point by point: of a point’s solutions only one is taken, so their sum may stand there,
 * which cuts off most of what is not whole.
 */
export function programOf(problem: PlanProblem): Program {
  const { solutions, pointIds, charges, hubs, limits } = problem
  const chargeKeys = Object.keys(charges)
  const hubKeys = Object.keys(hubs)
  const columns = solutions.length + chargeKeys.length + hubKeys.length
  const chargeColumn = new Map(chargeKeys.map((key, index) => [key, solutions.length + index]))
  const hubColumn = new Map(hubKeys.map((key, index) => [key, solutions.length + chargeKeys.length + index]))
  const mostOnHub = (key: string) =>
    pointIds.reduce((sum, id) => sum + Math.max(0, ...solutions.map((one) => (one.pointIds.includes(id) ? (one.onHub[key] ?? 0) : 0))), 0)
  const rows: Program['rows'] = []
  const at = new Map(pointIds.map((id) => [id, [] as number[]]))
  solutions.forEach((solution, column) => {
    for (const id of solution.pointIds) at.get(id)?.push(column)
  })
  for (const columnsOfPoint of at.values()) rows.push({ lower: 1, upper: 1, entries: columnsOfPoint.map((column) => [column, 1]) })
  const using = new Map<string, [number, number][]>()
  solutions.forEach(({ uses }, column) => {
    for (const [key, amount] of Object.entries(uses)) using.set(key, [...(using.get(key) ?? []), [column, amount]])
  })
  for (const [key, entries] of using) {
    const most = limits[key] ?? Infinity
    if (entries.length > 1 && Number.isFinite(most)) rows.push({ lower: -Infinity, upper: most, entries })
  }
  const bind = (key: string, needs: (solution: Solution) => boolean, column: number) => {
    for (const columnsOfPoint of at.values()) {
      const needing = columnsOfPoint.filter((one) => needs(solutions[one]!))
      if (needing.length)
        rows.push({ lower: -Infinity, upper: 0, entries: [...needing.map((one): [number, number] => [one, 1]), [column, -1]] })
    }
  }
  for (const key of chargeKeys) bind(key, ({ needs }) => needs.includes(key), chargeColumn.get(key)!)
  for (const key of hubKeys) {
    const { holds, free } = hubs[key]!
    const entries = solutions.flatMap(({ onHub }, column): [number, number][] => (onHub[key] ? [[column, onHub[key]]] : []))
    if (!entries.length) continue
    rows.push({ lower: -Infinity, upper: free, entries: [...entries, [hubColumn.get(key)!, -holds]] })
    if (free === 0) bind(key, ({ onHub }) => (onHub[key] ?? 0) > 0, hubColumn.get(key)!)
  }
  const money: [number, number][] = [
    ...solutions.map((solution, column): [number, number] => [column, moneyAlone(problem, solution)]),
    ...chargeKeys.flatMap((key): [number, number][] =>
      charges[key]!.money ? [[chargeColumn.get(key)!, chargeCents(problem, charges[key]!)]] : [],
    ),
    ...hubKeys.map((key): [number, number] => [hubColumn.get(key)!, hubCents(problem, hubs[key]!)]),
  ]
  rows.push({ lower: -Infinity, upper: Infinity, entries: money })
  const costs = new Array<number>(columns).fill(0)
  solutions.forEach((solution, column) => (costs[column] = weighedAlone(problem, solution)))
  for (const key of chargeKeys) costs[chargeColumn.get(key)!] = chargeCents(problem, charges[key]!)
  for (const key of hubKeys) costs[hubColumn.get(key)!] = hubCents(problem, hubs[key]!)
  return {
    costs,
    upper: [
      ...solutions.map(() => 1),
      ...chargeKeys.map(() => 1),
      ...hubKeys.map((key) => Math.max(0, Math.ceil((mostOnHub(key) - hubs[key]!.free) / hubs[key]!.holds))),
    ],
    // A charge follows from whole solutions by itself.
    whole: [...solutions.map(() => true), ...chargeKeys.map(() => false), ...hubKeys.map(() => true)],
    rows,
    moneyRow: rows.length - 1,
  }
}

/** The columns of a choice: what to begin the search with. */
export function columnsOf(problem: PlanProblem, chosen: readonly Solution[], hubCounts: Record<string, number>): number[] {
  const needed = new Set(chosen.flatMap(({ needs }) => needs))
  return [
    ...problem.solutions.map((solution) => (chosen.includes(solution) ? 1 : 0)),
    ...Object.keys(problem.charges).map((key) => (needed.has(key) ? 1 : 0)),
    ...Object.keys(problem.hubs).map((key) => hubCounts[key] ?? 0),
  ]
}
export const chosenIn = (problem: PlanProblem, columns: ArrayLike<number>): Solution[] =>
  problem.solutions.filter((_, column) => columns[column]! > 0.5)
