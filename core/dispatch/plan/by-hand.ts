import { lackOf, type DayProblem } from './day'
import { playDay, timePlan, type TimedPlan } from './timing'

/**
 * The day as a careful person plans it: whoever is free first goes to the nearest visit that can still be kept, and home
 * when there is none. For comparison, and to begin with.
 */
export function planByHand(problem: DayProblem): TimedPlan {
  const routes: number[][] = problem.crews.map(() => [])
  const left = new Set(problem.visits.keys())
  const free = problem.crews.map(({ from }) => from)
  const places = problem.crews.map(({ start }) => start)
  const working = new Set(problem.crews.keys())
  while (working.size && left.size) {
    const crew = [...working].reduce((first, one) => (free[one]! < free[first]! ? one : first))
    const able = [...left].filter((visit) => !lackOf(problem.visits[visit]!, [crew], problem))
    const near = able
      .map((visit) => {
        const { place, from } = problem.visits[visit]!
        return { visit, start: Math.max(from, problem.arrive(places[crew]!, place, free[crew]!)) }
      })
      .sort((a, b) => a.start - b.start)
    let gone = false
    for (const { visit } of near) {
      const times = playDay(problem, routes.with(crew, [...routes[crew]!, visit]), [crew], { keep: true })
      const day = times?.[0]
      const stop = day?.stops.at(-1)
      if (!day || !stop || stop.start > problem.visits[visit]!.to || day.home > problem.crews[crew]!.to) continue
      routes[crew]!.push(visit)
      left.delete(visit)
      free[crew] = stop.end
      places[crew] = problem.visits[visit]!.place
      gone = true
      break
    }
    if (!gone) working.delete(crew)
  }
  return timePlan(problem, routes)!
}
