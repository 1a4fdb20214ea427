import { lackOf, type DayProblem } from './day'
import { linkedCrews, playDay } from './timing'

/** Routes that are being changed, with what each crew costs. */
export interface Draft {
  routes: number[][]
  /** Cost by crew. */
  costs: number[]
  leftOut: Set<number>
}

export const priceOf = (problem: DayProblem, draft: Draft): number => {
  let sum = 0
  for (const cost of draft.costs) sum += cost
  for (const visit of draft.leftOut) sum += problem.visits[visit]!.leftOut
  return sum
}

export const copyOf = ({ routes, costs, leftOut }: Draft): Draft => ({
  routes: routes.map((route) => [...route]),
  costs: [...costs],
  leftOut: new Set(leftOut),
})

/** Nobody goes anywhere. */
export function emptyDraft(problem: DayProblem): Draft {
  return {
    routes: problem.crews.map(() => []),
    costs: problem.crews.map(() => 0),
    leftOut: new Set(problem.visits.keys()),
  }
}

/** Costs anew of crews whose routes were changed. @returns false where their day cannot be played. */
export function settle(problem: DayProblem, draft: Draft, crews: readonly number[]): boolean {
  const linked = linkedCrews(problem, draft.routes, crews)
  const times = playDay(problem, draft.routes, linked)
  if (!times) return false
  linked.forEach((crew, index) => (draft.costs[crew] = times[index]!.cost))
  return true
}

/**
 * Takes visits out, wherever they stand.
 * @returns false where what is left cannot be played: a rest may fall into another gap then.
 */
export function takeOut(problem: DayProblem, draft: Draft, visits: Iterable<number>): boolean {
  const touched = new Set<number>()
  for (const visit of visits) {
    draft.leftOut.add(visit)
    draft.routes.forEach((route, crew) => {
      const at = route.indexOf(visit)
      if (at < 0) return
      // Whoever waited for each other may be early now.
      for (const other of linkedCrews(problem, draft.routes, [crew])) touched.add(other)
      route.splice(at, 1)
    })
  }
  return touched.size === 0 || settle(problem, draft, [...touched])
}

export interface Placing {
  /** Where it is put: crew and position in its route. */
  at: { crew: number; position: number }[]
  delta: number
}

/** Costs more with a visit at these places than now. @returns Infinity where it cannot be played. */
function deltaOf(problem: DayProblem, draft: Draft, visit: number, at: Placing['at']): number {
  for (const { crew, position } of at) draft.routes[crew]!.splice(position, 0, visit)
  const linked = linkedCrews(
    problem,
    draft.routes,
    at.map(({ crew }) => crew),
  )
  const times = playDay(problem, draft.routes, linked)
  for (const { crew, position } of at) draft.routes[crew]!.splice(position, 1)
  if (!times) return Infinity
  let delta = 0
  linked.forEach((crew, index) => (delta += times[index]!.cost - draft.costs[crew]!))
  return delta
}

/** The cheapest place for a visit in one crew’s day. */
export function bestFor(problem: DayProblem, draft: Draft, visit: number, crew: number): Placing | null {
  if (lackOf(problem.visits[visit]!, [crew], problem)) return null
  let best: Placing | null = null
  for (let position = 0; position <= draft.routes[crew]!.length; position++) {
    const at = [{ crew, position }]
    const delta = deltaOf(problem, draft, visit, at)
    if (delta < (best?.delta ?? Infinity)) best = { at, delta }
  }
  return best
}

/** The cheapest way for two crews to come together, where none can do it by itself. */
export function bestTogether(problem: DayProblem, draft: Draft, visit: number): Placing | null {
  const wanted = problem.visits[visit]!
  if (wanted.people < 2 || problem.crews.some((_, crew) => !lackOf(wanted, [crew], problem))) return null
  let best: Placing | null = null
  for (let first = 0; first < problem.crews.length; first++)
    for (let second = first + 1; second < problem.crews.length; second++) {
      if (lackOf(wanted, [first, second], problem)) continue
      for (let here = 0; here <= draft.routes[first]!.length; here++)
        for (let there = 0; there <= draft.routes[second]!.length; there++) {
          const at = [
            { crew: first, position: here },
            { crew: second, position: there },
          ]
          const delta = deltaOf(problem, draft, visit, at)
          if (delta < (best?.delta ?? Infinity)) best = { at, delta }
        }
    }
  return best
}

export function put(problem: DayProblem, draft: Draft, visit: number, placing: Placing): void {
  for (const { crew, position } of placing.at) draft.routes[crew]!.splice(position, 0, visit)
  draft.leftOut.delete(visit)
  if (
    !settle(
      problem,
      draft,
      placing.at.map(({ crew }) => crew),
    )
  )
    throw new Error('A placing that was tried can be played.')
}
