import { asSaidSeconds, storeSeconds, type DayProblem, type Routes } from './day'

export interface StopTimes {
  visit: number
  /** Leaves the place before; at the store between, if parts are fetched. */
  leave: number
  storeAt: number | null
  arrive: number
  start: number
  end: number
  /** A rest before it or in it. */
  restFrom: number | null
}
export interface CrewTimes {
  stops: StopTimes[]
  /** Seconds on the road, the way back included. */
  travel: number
  /** At its day’s end. */
  home: number
  /** A rest after the last visit. */
  restFrom: number | null
  cost: number
}

/** Where one crew is while its day is played. */
interface Runner {
  crew: number
  route: readonly number[]
  index: number
  place: number
  time: number
  rested: boolean
  stocked: boolean
  travel: number
  cost: number
  stops: StopTimes[] | null
  /** Ready for a visit that others come to as well. */
  pending: StopTimes | null
}

const minute = 60

/**
 * Plays some crews’ days as early as they can be played. Crews that share a visit have to be played together.
 * @param crews Numbers of the crews to play.
 * @param seconds Work of a visit by a crew, where it is not the expected one.
 * @param keep Keeps the times of each stop; without it only costs are told.
 * @returns null where a day cannot be played: a hard promise broken, a shift overrun, or crews that wait for each other.
 */
export function playDay(
  problem: DayProblem,
  routes: Routes,
  crews: readonly number[],
  options: { keep?: boolean; seconds?: (visit: number, crew: number) => number; lenient?: boolean } = {},
): CrewTimes[] | null {
  const runners = crews.map((crew): Runner => ({
    crew,
    route: routes[crew]!,
    index: 0,
    place: problem.crews[crew]!.start,
    time: problem.crews[crew]!.from,
    rested: problem.crews[crew]!.rest === null,
    stocked: problem.store === null || problem.crews[crew]!.start === problem.store,
    travel: 0,
    cost: 0,
    stops: options.keep ? [] : null,
    pending: null,
  }))
  const sharers = (visit: number) => runners.filter(({ route }) => route.includes(visit))
  let waiting = true
  while (waiting) {
    waiting = false
    for (const runner of runners)
      while (runner.index < runner.route.length && !runner.pending) {
        const visit = runner.route[runner.index]!
        const stop = reach(problem, runner, visit)
        const others = problem.visits[visit]!.people > 1 ? sharers(visit) : []
        if (others.length > 1) {
          // Begins when everybody who comes to it is there.
          runner.pending = stop
          if (others.every(({ pending }) => pending?.visit === visit)) {
            const start = Math.max(...others.map(({ pending }) => pending!.start))
            for (const other of others) {
              const its = other.pending!
              other.pending = null
              if (!work(problem, other, { ...its, start }, options, other === others[0])) return null
            }
            waiting = true
          }
        } else if (!work(problem, runner, stop, options, true)) return null
      }
  }
  if (runners.some(({ pending, index, route }) => pending !== null || index < route.length)) return null
  const result: CrewTimes[] = []
  for (const runner of runners) {
    const times = goHome(problem, runner, options.lenient ?? false)
    if (!times) return null
    result.push(times)
  }
  return result
}

/** On the way to the next visit, by the store if its parts are not on board, with the rest where it falls. */
function reach(problem: DayProblem, runner: Runner, index: number): StopTimes {
  const visit = problem.visits[index]!
  const { rest } = problem.crews[runner.crew]!
  const leave = runner.time
  let { place } = runner
  let time = leave
  let storeAt: number | null = null
  if (!runner.stocked && visit.partsWith && !visit.partsWith.includes(runner.crew)) {
    storeAt = problem.arrive(place, problem.store!, time)
    runner.travel += storeAt - time
    time = storeAt + storeSeconds
    place = problem.store!
    runner.stocked = true
  }
  let arrive = problem.arrive(place, visit.place, time)
  runner.travel += arrive - time
  let start = Math.max(arrive, visit.from)
  let restFrom: number | null = null
  if (rest && !runner.rested && start >= rest.from) {
    const onArrival = arrive <= rest.to
    const from = Math.max(onArrival ? arrive : time, rest.from)
    const rested = onArrival ? from + rest.seconds : problem.arrive(place, visit.place, from + rest.seconds)
    const after = Math.max(rested, visit.from)
    const seconds = visit.seconds * problem.crews[runner.crew]!.pace
    // First the visit where the promise would be broken by the rest and not without it.
    if (!(after > visit.to && start <= visit.to && start + seconds <= rest.to)) {
      if (!onArrival) {
        runner.travel += rested - (from + rest.seconds) - (arrive - time)
        arrive = rested
      }
      start = after
      restFrom = from
      runner.rested = true
    }
  }
  return { visit: index, leave, storeAt, arrive, start, end: start, restFrom }
}

function work(
  problem: DayProblem,
  runner: Runner,
  stop: StopTimes,
  { seconds, lenient }: { seconds?: (visit: number, crew: number) => number; lenient?: boolean },
  counts: boolean,
): boolean {
  const visit = problem.visits[stop.visit]!
  const crew = problem.crews[runner.crew]!
  const { weights } = problem
  stop.end = stop.start + (seconds ? seconds(stop.visit, runner.crew) : visit.seconds * crew.pace)
  const { rest } = crew
  // A long visit has the rest in it.
  if (rest && !runner.rested && stop.end > rest.to) {
    stop.restFrom = Math.max(stop.start, rest.from)
    stop.end += rest.seconds
    runner.rested = true
  }
  const late = stop.start - visit.to
  if (late > 0 && visit.hard && !lenient) return false
  if (counts) {
    if (late > 0) runner.cost += (late / minute) * weights.late * visit.weight
    if (visit.promised) {
      const moved = Math.abs(stop.start - visit.promised.start) - asSaidSeconds
      if (moved > 0) runner.cost += (moved / minute) * weights.moved
    }
  }
  if (visit.promised && !visit.promised.crews.includes(runner.crew)) runner.cost += weights.otherCrew
  runner.stops?.push(stop)
  runner.time = stop.end
  runner.place = visit.place
  runner.index++
  return stop.end <= crew.latest || (lenient ?? false)
}

function goHome(problem: DayProblem, runner: Runner, lenient: boolean): CrewTimes | null {
  const crew = problem.crews[runner.crew]!
  const { weights } = problem
  const used = runner.route.length > 0
  let restFrom: number | null = null
  let home = runner.time
  if (used) {
    if (!runner.rested && crew.rest && home > crew.rest.from) {
      restFrom = home
      home += crew.rest.seconds
    }
    if (crew.end !== null) {
      const arrive = problem.arrive(runner.place, crew.end, home)
      runner.travel += arrive - home
      home = arrive
    }
    if (home > crew.latest && !lenient) return null
    const busy = (home - crew.from) / Math.max(1, crew.to - crew.from)
    runner.cost += (runner.travel / minute) * weights.travel + busy * busy * weights.uneven
    if (home > crew.to) runner.cost += ((home - crew.to) / minute) * weights.overtime
  }
  return { stops: runner.stops ?? [], travel: runner.travel, home, restFrom, cost: runner.cost }
}

/** Crews that have to be played together with some: those who share visits with them, and so on. */
export function linkedCrews(problem: DayProblem, routes: Routes, crews: readonly number[]): number[] {
  const linked = [...crews]
  for (let next = 0; next < linked.length; next++)
    for (const visit of routes[linked[next]!]!)
      if (problem.visits[visit]!.people > 1)
        routes.forEach((route, crew) => !linked.includes(crew) && route.includes(visit) && linked.push(crew))
  return linked
}

export interface TimedPlan {
  routes: number[][]
  crews: CrewTimes[]
  leftOut: number[]
  cost: number
}
/** A plan with its times and what it costs. @returns null where it cannot be played. */
export function timePlan(problem: DayProblem, routes: Routes, lenient = false): TimedPlan | null {
  const crews = playDay(
    problem,
    routes,
    problem.crews.map((_, crew) => crew),
    { keep: true, lenient },
  )
  if (!crews) return null
  const placed = new Set(routes.flat())
  const leftOut = problem.visits.flatMap((_, visit) => (placed.has(visit) ? [] : [visit]))
  const cost = crews.reduce((sum, one) => sum + one.cost, 0) + leftOut.reduce((sum, visit) => sum + problem.visits[visit]!.leftOut, 0)
  return { routes: routes.map((route) => [...route]), crews, leftOut, cost }
}
