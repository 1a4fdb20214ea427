import { lackOf, type DayProblem, type Routes } from './day'
import { dawn, endDay, linkedCrews, playDay, step, type Spot } from './timing'

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

/** A plan as it stands, to be changed. @returns null where its days cannot be played */
export function draftOf(problem: DayProblem, routes: Routes): Draft | null {
  const draft = emptyDraft(problem)
  routes.forEach((route, crew) => {
    draft.routes[crew] = [...route]
    for (const visit of route) draft.leftOut.delete(visit)
  })
  return settle(problem, draft, [...problem.crews.keys()]) ? draft : null
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

const copySpot = (from: Spot, to: Spot): Spot => {
  to.place = from.place
  to.time = from.time
  to.rested = from.rested
  to.stocked = from.stocked
  to.travel = from.travel
  to.cost = from.cost
  return to
}

/** The cheapest place for a visit in one crew’s day. */
export function bestFor(problem: DayProblem, draft: Draft, visit: number, crew: number): Placing | null {
  if (lackOf(problem.visits[visit]!, [crew], problem)) return null
  const route = draft.routes[crew]!
  if (linkedCrews(problem, draft.routes, [crew]).length > 1) return bestAmongLinked(problem, draft, visit, crew)
  const before = draft.costs[crew]!
  let least = Infinity
  let best = -1
  const upTo = dawn(problem, crew)
  const trial = dawn(problem, crew)
  for (let position = 0; position <= route.length; position++) {
    copySpot(upTo, trial)
    let can = step(problem, trial, crew, visit)
    for (let next = position; can && next < route.length; next++)
      // What was counted so far only grows.
      can = step(problem, trial, crew, route[next]!) && trial.cost + (trial.travel / 60) * problem.weights.travel < least
    if (can && endDay(problem, trial, crew) && trial.cost < least) {
      least = trial.cost
      best = position
    }
    if (position < route.length && !step(problem, upTo, crew, route[position]!)) break
  }
  return best < 0 ? null : { at: [{ crew, position: best }], delta: least - before }
}

function bestAmongLinked(problem: DayProblem, draft: Draft, visit: number, crew: number): Placing | null {
  let best: Placing | null = null
  for (let position = 0; position <= draft.routes[crew]!.length; position++) {
    const at = [{ crew, position }]
    const delta = deltaOf(problem, draft, visit, at)
    if (delta < (best?.delta ?? Infinity)) best = { at, delta }
  }
  return best
}

/** What a visit costs where it stands. @returns -Infinity where the rest cannot be played without it */
export function savedBy(problem: DayProblem, draft: Draft, visit: number): number {
  const crews = draft.routes.flatMap((route, crew) => (route.includes(visit) ? [crew] : []))
  const linked = linkedCrews(problem, draft.routes, crews)
  const routes = [...draft.routes]
  for (const crew of crews) routes[crew] = routes[crew]!.filter((one) => one !== visit)
  const times = playDay(problem, routes, linked)
  return times ? linked.reduce((sum, crew, index) => sum + draft.costs[crew]! - times[index]!.cost, 0) : -Infinity
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

/** Every crew’s best place for a visit, and that of two together: cheapest first. */
export const bestPlaces = (problem: DayProblem, draft: Draft, visit: number): Placing[] =>
  [...problem.crews.map((_, crew) => bestFor(problem, draft, visit, crew)), bestTogether(problem, draft, visit)]
    .filter((one) => one !== null)
    .sort((a, b) => a.delta - b.delta)

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
