import type { DayProblem, DayVisit, Routes } from './day'
import { bestFor, bestTogether, emptyDraft, put, settle, type Placing } from './placing'
import { timePlan } from './timing'

export interface WindowOffer {
  from: number
  to: number
  /** Points that it costs the day. */
  cost: number
  crews: number[]
  start: number
  end: number
  /** Where in each crew’s day. */
  placing: Placing
}

/**
 * The windows in which one more visit costs the day least, for who is on the telephone.
 * @param visit What is to be done; its own window is not looked at.
 * @returns Cheapest first, at most so many; windows in which nobody can come are not there.
 */
export function windowsFor(
  problem: DayProblem,
  routes: Routes,
  visit: DayVisit,
  windows: readonly { from: number; to: number }[],
  most = 3,
): WindowOffer[] {
  return windows
    .flatMap(({ from, to }): WindowOffer[] => {
      const asked: DayProblem = { ...problem, visits: [...problem.visits, { ...visit, from, to, hard: true }] }
      const index = problem.visits.length
      const draft = emptyDraft(asked)
      routes.forEach((route, crew) => {
        draft.routes[crew] = [...route]
        for (const one of route) draft.leftOut.delete(one)
      })
      if (!settle(asked, draft, [...asked.crews.keys()])) return []
      const best = [...asked.crews.map((_, crew) => bestFor(asked, draft, index, crew)), bestTogether(asked, draft, index)]
        .filter((one) => one !== null && Number.isFinite(one.delta))
        .sort((a, b) => a!.delta - b!.delta)[0]
      if (!best) return []
      put(asked, draft, index, best)
      const crews = best.at.map(({ crew }) => crew)
      const stop = timePlan(asked, draft.routes)!.crews[crews[0]!]!.stops.find((one) => one.visit === index)!
      return [{ from, to, cost: best.delta, crews, start: stop.start, end: stop.end, placing: best }]
    })
    .sort((a, b) => a.cost - b.cost || a.from - b.from)
    .slice(0, most)
}
