import type { Chance } from '../../chance'
import { costOf, objection, type PlanProblem, type Solution } from '../problem'
import { solutionKinds } from '../words'

/** A home that knows nothing of the trade: points, ways that share places, rows, hubs and apps, some of them for two points at once. */
export function inventedProblem(chance: Chance, size: { points: number; ways: number; hubs: number; rows?: boolean }): PlanProblem {
  const pick = (most: number) => chance.int(most)
  const pointIds = Array.from({ length: size.points }, (_, index) => `p${index}`)
  const apps = Array.from({ length: 3 }, (_, index) => `app:${index}`)
  const hubs = Array.from({ length: size.hubs }, (_, index) => `hub${index}`)
  const charges: PlanProblem['charges'] = Object.fromEntries(
    apps.map((key) => [key, { cents: 500 + pick(6000), money: false, minutes: 0, articleId: null }]),
  )
  const limits: Record<string, number> = {}
  const solutions: Solution[] = []
  const add = (points: string[], kind: number, index: number) => {
    const box = `box${Math.floor(Number(points[0]!.slice(1)) / 3)}`
    const look = `look:${box}:${pick(3)}`
    const plate = `plate:${box}`
    charges[look] ??= { cents: 800 + pick(1500), money: false, minutes: 0, articleId: null }
    charges[plate] ??= { cents: 300 + pick(900), money: true, minutes: 3, articleId: 'a' }
    limits[`room:${box}`] ??= 6 + pick(14)
    const hub = hubs.length && chance.next() < 0.35 ? hubs[pick(hubs.length)]! : null
    const inWall = chance.next() < 0.7
    solutions.push({
      id: `${points.join('+')}/${index}`,
      kind: solutionKinds[kind % solutionKinds.length]!,
      pointIds: points,
      devices: [],
      parts: [],
      partsCents: 800 + pick(9000) * points.length,
      minutes: 5 + pick(50) * points.length,
      comfort: 20 + pick(80),
      callbacksPerYear: chance.next() * 0.2,
      againCents: pick(4000),
      leansAs: null,
      leanCents: pick(3000) - 1500,
      uses: inWall ? { ...Object.fromEntries(points.map((id) => [`gang:${id}`, 1])), [`room:${box}`]: 1 + pick(4) } : {},
      needs: [...(inWall && size.rows !== false ? [look, plate] : []), apps[pick(apps.length)]!],
      onHub: hub ? { [hub]: points.length } : {},
    })
    for (const id of points) limits[`gang:${id}`] = 1
  }
  for (const [index, id] of pointIds.entries()) {
    // There is always a way that takes nothing.
    solutions.push({
      id: `${id}/leave`,
      kind: 'leave',
      pointIds: [id],
      devices: [],
      parts: [],
      partsCents: 0,
      minutes: 0,
      comfort: 0,
      callbacksPerYear: 0,
      againCents: 0,
      leansAs: null,
      leanCents: 0,
      uses: {},
      needs: [],
      onHub: {},
    })
    for (let way = 1; way < size.ways; way++) add([id], way, way)
    if (index > 0 && chance.next() < 0.3) add([pointIds[index - 1]!, id], index, 90)
  }
  return {
    pointIds,
    solutions,
    limits,
    charges,
    hubs: Object.fromEntries(
      hubs.map((key) => [
        key,
        {
          cents: 4000 + pick(9000),
          minutes: 10 + pick(20),
          articleId: 'h',
          holds: 2 + pick(size.points > 20 ? 49 : 4),
          free: chance.next() < 0.3 ? pick(3) : 0,
        },
      ]),
    ),
    weights: { comfortCents: 4000 + pick(14_000), callbackCents: 9000, years: 8, leaning: {} },
    hourlyCents: 8400,
  }
}

/** The least of all choices, by looking at every one. */
export function leastOfAll(problem: PlanProblem): number {
  let least = Infinity
  const look = (chosen: Solution[], solved: Set<string>) => {
    const open = problem.pointIds.find((id) => !solved.has(id))
    if (!open) {
      if (!objection(problem, chosen)) least = Math.min(least, costOf(problem, chosen).weighed)
      return
    }
    for (const solution of problem.solutions)
      if (solution.pointIds.includes(open) && !solution.pointIds.some((id) => solved.has(id)))
        look([...chosen, solution], new Set([...solved, ...solution.pointIds]))
  }
  look([], new Set())
  return least
}
