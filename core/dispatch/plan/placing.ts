import { lackOf, type DayProblem, type Routes } from './day'
import { canAlone, knownDay, type KnownDay } from './memory'
import { endDay, linkedCrews, playDay, step, type Spot } from './timing'

/** Routes that are being changed, with what each crew costs. */
export interface Draft {
  routes: number[][]
  /** Cost by crew. */
  costs: number[]
  leftOut: Set<number>
  /** What is known of each crew’s day as it stands; null since it was changed. */
  known: (KnownDay | null)[]
}

export const priceOf = (problem: DayProblem, draft: Draft): number => {
  let sum = 0
  for (const cost of draft.costs) sum += cost
  for (const visit of draft.leftOut) sum += problem.visits[visit]!.leftOut
  return sum
}

export const copyOf = ({ routes, costs, leftOut, known }: Draft): Draft => ({
  routes: routes.map((route) => [...route]),
  costs: [...costs],
  leftOut: new Set(leftOut),
  known: [...known],
})

/** Nobody goes anywhere. */
export function emptyDraft(problem: DayProblem): Draft {
  return {
    routes: problem.crews.map(() => []),
    costs: problem.crews.map(() => 0),
    leftOut: new Set(problem.visits.keys()),
    known: problem.crews.map(() => null),
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
  const done = new Set<number>()
  for (const crew of crews) {
    if (done.has(crew)) continue
    const day = knownDay(problem, draft.routes, crew)
    for (const one of day.linked) {
      done.add(one)
      draft.known[one] = null
    }
    if (!day.costs) return false
    day.linked.forEach((one, index) => (draft.costs[one] = day.costs![index]!))
    draft.known[crew] = day
  }
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

const dayOf = (problem: DayProblem, draft: Draft, crew: number): KnownDay => {
  const known = draft.known[crew]
  return known?.problem === problem ? known : (draft.known[crew] = knownDay(problem, draft.routes, crew))
}
/** What a visit costs more in its cheapest place of one crew’s day; Infinity where there is none. */
export function deltaFor(problem: DayProblem, draft: Draft, visit: number, crew: number): number {
  if (!canAlone(problem, visit, crew)) return Infinity
  const known = dayOf(problem, draft, crew)
  if (Number.isNaN(known.delta[visit]!))
    if (known.linked.length > 1) tryEachLinked(problem, draft, visit, crew, known)
    else tryEach(problem, draft, visit, crew, known)
  return known.delta[visit]!
}
/** The cheapest place for a visit in one crew’s day. */
export function bestFor(problem: DayProblem, draft: Draft, visit: number, crew: number): Placing | null {
  const delta = deltaFor(problem, draft, visit, crew)
  return delta === Infinity ? null : { at: [{ crew, position: dayOf(problem, draft, crew).position[visit]! }], delta }
}
const soFar = ({ weights }: DayProblem, { cost, travel }: Spot) => cost + (travel / 60) * weights.travel
const trial: Spot = { place: 0, time: 0, rested: false, stocked: false, travel: 0, cost: 0 }
function tryEach(problem: DayProblem, draft: Draft, visit: number, crew: number, known: KnownDay): void {
  const route = draft.routes[crew]!
  const before = draft.costs[crew]!
  const spots = known.spots!
  let least = Infinity
  for (let position = 0; position <= route.length; position++) {
    const from = spots[position]!
    copySpot(from, trial)
    if (!step(problem, trial, crew, visit)) continue
    // What comes after it costs no less than it did, but for the way to the next. (Where a later start is nearer to what was said, or
    // traffic eases, a little less: such a place may be passed over, never a worse one taken for it.)
    const way = position < route.length ? spots[position + 1]!.travel - from.travel : Infinity
    const after = before - soFar(problem, from) - (way / 60) * problem.weights.travel
    if (soFar(problem, trial) + after >= least) continue
    let next = position
    let total = Infinity
    for (; next < route.length; next++) {
      if (!step(problem, trial, crew, route[next]!)) break
      const then = spots[next + 1]!
      const more = soFar(problem, trial) - soFar(problem, then)
      if (before + more >= least) break
      if (trial.time === then.time && trial.rested === then.rested && trial.stocked === then.stocked) {
        // From here on the day goes as it went.
        total = before + more
        break
      }
    }
    if (next === route.length && endDay(problem, trial, crew)) total = trial.cost
    if (total < least) {
      least = total
      known.position[visit] = position
    }
  }
  known.delta[visit] = least - before
}

function tryEachLinked(problem: DayProblem, draft: Draft, visit: number, crew: number, known: KnownDay): void {
  let least = Infinity
  for (let position = 0; position <= draft.routes[crew]!.length; position++) {
    const delta = deltaOf(problem, draft, visit, [{ crew, position }])
    if (delta >= least) continue
    least = delta
    known.position[visit] = position
  }
  known.delta[visit] = least
}

/** What a visit costs where it stands. @returns -Infinity where the rest cannot be played without it */
export function savedBy(problem: DayProblem, draft: Draft, visit: number): number {
  const first = draft.routes.findIndex((route) => route.includes(visit))
  const day = dayOf(problem, draft, first)
  const memory = (day.saved ??= new Map())
  let saved = memory.get(visit)
  if (saved === undefined) memory.set(visit, (saved = savedAnew(problem, draft, visit)))
  return saved
}
function savedAnew(problem: DayProblem, draft: Draft, visit: number): number {
  const crews = draft.routes.flatMap((route, crew) => (route.includes(visit) ? [crew] : []))
  const routes = [...draft.routes]
  for (const crew of crews) routes[crew] = routes[crew]!.filter((one) => one !== visit)
  let saved = 0
  const counted = new Set<number>()
  for (const crew of linkedCrews(problem, draft.routes, crews)) {
    if (counted.has(crew)) continue
    const { linked, costs } = knownDay(problem, routes, crew)
    if (!costs) return -Infinity
    linked.forEach((one, index) => {
      counted.add(one)
      saved += draft.costs[one]! - costs[index]!
    })
  }
  return saved
}

/** The cheapest way for two crews to come together, where none can do it by itself. */
export function bestTogether(problem: DayProblem, draft: Draft, visit: number): Placing | null {
  const wanted = problem.visits[visit]!
  if (wanted.people < 2) return null
  const { crews } = problem
  if (crews.some((_, crew) => canAlone(problem, visit, crew))) return null
  let best: Placing | null = null
  for (let first = 0; first < crews.length; first++)
    for (let second = first + 1; second < crews.length; second++) {
      if (lackOf(wanted, [first, second], problem)) continue
      const known = knownDay(problem, draft.routes, first, second)
      if (Number.isNaN(known.delta[visit]!)) tryEachTwo(problem, draft, visit, first, second, known)
      const delta = known.delta[visit]!
      if (delta >= (best?.delta ?? Infinity)) continue
      best = {
        at: [
          { crew: first, position: known.position[visit]! },
          { crew: second, position: known.other![visit]! },
        ],
        delta,
      }
    }
  return best
}
function tryEachTwo(problem: DayProblem, draft: Draft, visit: number, first: number, second: number, known: KnownDay): void {
  // Waiting for each other makes it no cheaper: what each would cost by itself says which are worth a try.
  const alone = (crew: number) =>
    Array.from({ length: draft.routes[crew]!.length + 1 }, (_, position) => deltaOf(problem, draft, visit, [{ crew, position }]))
  const [firsts, seconds] = [alone(first), alone(second)]
  const pairs: { here: number; there: number; bound: number }[] = []
  firsts.forEach((a, here) => seconds.forEach((b, there) => a + b < Infinity && pairs.push({ here, there, bound: a + b })))
  pairs.sort((a, b) => a.bound - b.bound)
  let least = Infinity
  for (const { here, there, bound } of pairs) {
    if (bound >= 2 * least) break
    const delta = deltaOf(problem, draft, visit, [
      { crew: first, position: here },
      { crew: second, position: there },
    ])
    if (delta >= least) continue
    least = delta
    known.position[visit] = here
    ;(known.other ??= new Int16Array(problem.visits.length))[visit] = there
  }
  known.delta[visit] = least
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
