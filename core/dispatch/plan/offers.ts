import type { DayProblem, DayVisit, Routes } from './day'
import { bestPlaces, draftOf } from './placing'
import { timePlan, type TimedPlan } from './timing'

export interface WindowOffer {
  from: number
  to: number
  /** Points that it costs the day. */
  cost: number
  crews: number[]
  start: number
  end: number
  /** The day with it: it is the last visit of its problem. */
  problem: DayProblem
  plan: TimedPlan
}

/**
 * The windows in which one more visit costs the day least, for who is on the telephone.
 * @param visit What is to be done; its own window is not looked at.
 * @param fits What an offer has to be besides; where the cheapest crew’s is not, the next one’s is asked.
 * @returns Cheapest first, at most so many; windows in which nobody can come are not there.
 */
export function windowsFor(
  problem: DayProblem,
  routes: Routes,
  visit: DayVisit,
  windows: readonly { from: number; to: number }[],
  { most = 3, fits = () => true }: { most?: number; fits?: (offer: WindowOffer) => boolean } = {},
): WindowOffer[] {
  const index = problem.visits.length
  // Its window changes nothing of the day without it.
  const draft = draftOf({ ...problem, visits: [...problem.visits, visit] }, routes)
  if (!draft) return []
  return windows
    .flatMap(({ from, to }): WindowOffer[] => {
      const asked: DayProblem = { ...problem, visits: [...problem.visits, { ...visit, from, to, hard: true }] }
      for (const { at, delta } of bestPlaces(asked, draft, index)) {
        const with_ = routes.map((route, crew) => {
          const spot = at.find((one) => one.crew === crew)
          return spot ? route.toSpliced(spot.position, 0, index) : route
        })
        const plan = timePlan(asked, with_)!
        const crews = at.map(({ crew }) => crew)
        const { start, end } = plan.crews[crews[0]!]!.stops.find((one) => one.visit === index)!
        const offer = { from, to, cost: delta, crews, start, end, problem: asked, plan }
        if (fits(offer)) return [offer]
      }
      return []
    })
    .sort((a, b) => a.cost - b.cost || a.from - b.from)
    .slice(0, most)
}
