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

/** How far one crew’s day has been played. */
export interface Spot {
  place: number
  time: number
  rested: boolean
  stocked: boolean
  travel: number
  cost: number
}
interface Runner extends Spot {
  crew: number
  route: readonly number[]
  index: number
  stops: StopTimes[] | null
  /** Ready for a visit that others come to as well. */
  pending: StopTimes | null
}

export const dawn = (problem: DayProblem, crew: number): Spot => ({
  place: problem.crews[crew]!.start,
  time: problem.crews[crew]!.from,
  rested: problem.crews[crew]!.rest === null,
  stocked: problem.store === null || problem.crews[crew]!.start === problem.store,
  travel: 0,
  cost: 0,
})
const blank = (): StopTimes => ({ visit: 0, leave: 0, storeAt: null, arrive: 0, start: 0, end: 0, restFrom: null })
/** Where nobody asks for the times, one is enough for all. */
const scratch = blank()

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
  options: How & { keep?: boolean } = {},
): CrewTimes[] | null {
  const runners = crews.map((crew): Runner => ({
    ...dawn(problem, crew),
    crew,
    route: routes[crew]!,
    index: 0,
    stops: options.keep ? [] : null,
    pending: null,
  }))
  /** Who comes to a visit that takes several. */
  const sharers = new Map<number, Runner[]>()
  if (runners.length > 1)
    for (const runner of runners)
      for (const visit of runner.route)
        if (problem.visits[visit]!.people > 1) {
          const others = sharers.get(visit)
          if (others) others.push(runner)
          else sharers.set(visit, [runner])
        }
  let waiting = true
  while (waiting) {
    waiting = false
    for (const runner of runners)
      while (runner.index < runner.route.length && !runner.pending) {
        const visit = runner.route[runner.index]!
        const others = sharers.get(visit)
        if (others && others.length > 1) {
          // Begins when everybody who comes to it is there.
          runner.pending = reach(problem, runner, runner.crew, visit, blank())
          if (others.every(({ pending }) => pending?.visit === visit)) {
            const start = Math.max(...others.map(({ pending }) => pending!.start))
            for (const other of others) {
              const its = other.pending!
              other.pending = null
              its.start = start
              if (!work(problem, other, other.crew, its, options, other === others[0])) return null
              other.stops?.push(its)
              other.index++
            }
            waiting = true
          }
        } else {
          const stop = reach(problem, runner, runner.crew, visit, options.keep ? blank() : scratch)
          if (!work(problem, runner, runner.crew, stop, options, true)) return null
          runner.stops?.push(stop)
          runner.index++
        }
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

/** On the way to the next visit: once it is back from being away, where the visit would not be over before. Fills a stop and gives it back. */
export function reach(problem: DayProblem, spot: Spot, crewNumber: number, index: number, stop: StopTimes): StopTimes {
  const { away, pace } = problem.crews[crewNumber]!
  for (const { from, to } of away) {
    if (spot.time >= to) continue
    const trial = { ...spot }
    const { start } = goTo(problem, trial, crewNumber, index, stop)
    const end = start + problem.visits[index]!.seconds * pace
    if (end + restIn(problem, trial, crewNumber, end) <= from) break
    spot.time = to
  }
  return goTo(problem, spot, crewNumber, index, stop)
}

/** By the store if its parts are not on board, with the rest where it falls. */
function goTo(problem: DayProblem, spot: Spot, crewNumber: number, index: number, stop: StopTimes): StopTimes {
  const visit = problem.visits[index]!
  const crew = problem.crews[crewNumber]!
  const { rest } = crew
  const leave = spot.time
  let { place } = spot
  let time = leave
  let storeAt: number | null = null
  if (!spot.stocked && visit.partsWith && !visit.partsWith.includes(crewNumber)) {
    storeAt = problem.arrive(place, problem.store!, time)
    spot.travel += storeAt - time
    time = storeAt + storeSeconds
    place = problem.store!
    spot.stocked = true
  }
  let arrive = problem.arrive(place, visit.place, time)
  spot.travel += arrive - time
  let start = Math.max(arrive, visit.from)
  let restFrom: number | null = null
  if (rest && !spot.rested && start >= rest.from) {
    const onArrival = arrive <= rest.to
    const from = Math.max(onArrival ? arrive : time, rest.from)
    const rested = onArrival ? from + rest.seconds : problem.arrive(place, visit.place, from + rest.seconds)
    const after = Math.max(rested, visit.from)
    const seconds = visit.seconds * crew.pace
    // First the visit where the promise would be broken by the rest and not without it.
    if (!(after > visit.to && start <= visit.to && start + seconds <= rest.to)) {
      if (!onArrival) {
        spot.travel += rested - (from + rest.seconds) - (arrive - time)
        arrive = rested
      }
      start = after
      restFrom = from
      spot.rested = true
    }
  }
  stop.visit = index
  stop.leave = leave
  stop.storeAt = storeAt
  stop.arrive = arrive
  stop.start = stop.end = start
  stop.restFrom = restFrom
  return stop
}

/** A long visit has the rest in it. @returns its seconds; 0 where it falls before or after */
function restIn({ crews }: DayProblem, { rested }: Spot, crew: number, end: number): number {
  const { rest } = crews[crew]!
  return rest !== null && !rested && end > rest.to ? rest.seconds : 0
}

interface How {
  seconds?: (visit: number, crew: number) => number
  lenient?: boolean
}
const strict: How = {}
/**
 * The work of a visit that was reached.
 * @param counts Whether its lateness counts here: of crews that come together, with one of them.
 * @returns false where a hard promise or the day’s limit is broken, or it is away then
 */
export function work(
  problem: DayProblem,
  spot: Spot,
  crewNumber: number,
  stop: StopTimes,
  { seconds, lenient = false }: How = strict,
  counts = true,
): boolean {
  const visit = problem.visits[stop.visit]!
  const crew = problem.crews[crewNumber]!
  const { weights } = problem
  const takes = seconds ? seconds(stop.visit, crewNumber) : visit.seconds * crew.pace
  const resting = restIn(problem, spot, crewNumber, stop.start + takes)
  stop.end = stop.start + takes + resting
  if (resting) {
    stop.restFrom = Math.max(stop.start, crew.rest!.from)
    spot.rested = true
  }
  // Who waited for others may have waited until it is away.
  if (!lenient && crew.away.some(({ from, to }) => stop.start < to && stop.end > from)) return false
  const late = stop.start - visit.to
  if (late > 0 && visit.hard && !lenient) return false
  if (counts) {
    if (late > 0) spot.cost += (late / minute) * weights.late * visit.weight
    if (visit.promised) {
      const moved = Math.abs(stop.start - visit.promised.start) - asSaidSeconds
      if (moved > 0) spot.cost += (moved / minute) * weights.moved
    }
  }
  if (visit.promised && !visit.promised.crews.includes(crewNumber)) spot.cost += weights.otherCrew
  spot.time = stop.end
  spot.place = visit.place
  return stop.end <= crew.latest || lenient
}

/** One more visit of a crew that shares none. @returns false where it cannot be played */
export const step = (problem: DayProblem, spot: Spot, crew: number, visit: number): boolean =>
  work(problem, spot, crew, reach(problem, spot, crew, visit, scratch))

/**
 * The day of a crew that shares no visit.
 * @param spots Filled with how far it is before each of its visits, and after the last.
 * @returns what it costs; null where it cannot be played
 */
export function playAlone(problem: DayProblem, crew: number, route: readonly number[], spots: Spot[]): number | null {
  const spot = dawn(problem, crew)
  spots.push({ ...spot })
  for (const visit of route) {
    if (!step(problem, spot, crew, visit)) return null
    spots.push({ ...spot })
  }
  return route.length && !endDay(problem, spot, crew) ? null : spot.cost
}

/** The way home of a crew that had visits. @returns false where it comes home too late; the spot is home then, its cost whole */
export function endDay(problem: DayProblem, spot: Spot, crewNumber: number, lenient = false): { restFrom: number | null } | false {
  const crew = problem.crews[crewNumber]!
  const { weights } = problem
  let restFrom: number | null = null
  if (!spot.rested && crew.rest && spot.time > crew.rest.from) {
    restFrom = spot.time
    spot.time += crew.rest.seconds
  }
  if (crew.end !== null) {
    const arrive = problem.arrive(spot.place, crew.end, spot.time)
    spot.travel += arrive - spot.time
    spot.time = arrive
  }
  if (spot.time > crew.latest && !lenient) return false
  const busy = (spot.time - crew.from) / Math.max(1, crew.to - crew.from)
  spot.cost += (spot.travel / minute) * weights.travel + busy * busy * weights.uneven
  if (spot.time > crew.to) spot.cost += ((spot.time - crew.to) / minute) * weights.overtime
  return restFrom === null ? noRest : { restFrom }
}
const noRest = { restFrom: null }

function goHome(problem: DayProblem, runner: Runner, lenient: boolean): CrewTimes | null {
  const ended = runner.route.length ? endDay(problem, runner, runner.crew, lenient) : noRest
  if (!ended) return null
  const { stops, travel, time, cost } = runner
  return { stops: stops ?? [], travel, home: time, restFrom: ended.restFrom, cost }
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
