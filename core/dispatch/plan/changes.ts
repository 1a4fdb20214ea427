import { asSaidSeconds, lackOf, type DayProblem, type Lack } from './day'
import { bestPlaces, draftOf } from './placing'
import type { TimedPlan } from './timing'

export interface Moved {
  visit: number
  from: { crews: number[]; start: number } | null
  to: { crews: number[]; start: number } | null
  /** The promised window is no longer kept, and was before. */
  breaksPromise: boolean
}

export function placesIn({ crews }: Pick<TimedPlan, 'crews'>): Map<number, { crews: number[]; start: number; end: number }> {
  const places = new Map<number, { crews: number[]; start: number; end: number }>()
  crews.forEach(({ stops }, crew) => {
    for (const { visit, start, end } of stops) {
      const known = places.get(visit)
      if (known) known.crews.push(crew)
      else places.set(visit, { crews: [crew], start, end })
    }
  })
  return places
}

/** The same people or crews, in whatever order. */
export const sameMembers = <T>(a: readonly T[], b: readonly T[]): boolean => [...a].sort().join() === [...b].sort().join()

/** What another plan changes for somebody: other people, or a start that moves by more than a quarter of an hour. */
export function changesBetween(problem: DayProblem, before: TimedPlan, after: TimedPlan): Moved[] {
  const [was, will] = [placesIn(before), placesIn(after)]
  return problem.visits.flatMap(({ to }, visit): Moved[] => {
    const [from, then] = [was.get(visit) ?? null, will.get(visit) ?? null]
    const same = from && then ? sameMembers(from.crews, then.crews) && Math.abs(from.start - then.start) <= asSaidSeconds : from === then
    if (same) return []
    return [{ visit, from, to: then, breaksPromise: (!then || then.start > to) && from !== null && from.start <= to }]
  })
}

/** Why nobody goes there. */
export type WhyLeftOut =
  | { why: Lack }
  /** Nobody is there in time: the earliest is so much after the window. */
  | { why: 'late'; crew: number; seconds: number }
  /** It can be had, and costs more than leaving it out. */
  | { why: 'dear'; crew: number; points: number }
  | { why: 'full' }

export function whyLeftOut(problem: DayProblem, plan: TimedPlan, visit: number): WhyLeftOut {
  const wanted = problem.visits[visit]!
  const lacks = problem.crews.map((_, crew) => lackOf(wanted, [crew], problem))
  const pairs = wanted.people > 1 && problem.crews.some((_, a) => problem.crews.some((__, b) => a < b && !lackOf(wanted, [a, b], problem)))
  if (!pairs && lacks.every((lack) => lack !== null)) {
    // The lack that the fewest steps would mend is the one to name.
    const order: Lack[] = ['people', 'licence', 'skills', 'pinned']
    return { why: order.find((lack) => lacks.includes(lack)) ?? 'full' }
  }
  const best = (day: DayProblem) => {
    const draft = draftOf(day, plan.routes)
    return draft && (bestPlaces(day, draft, visit)[0] ?? null)
  }
  const now = best(problem)
  if (now) return { why: 'dear', crew: now.at[0]!.crew, points: now.delta }
  // Without its promise, and lateness alone counted.
  const soft = best({
    ...problem,
    weights: { ...problem.weights, late: 1, travel: 0, uneven: 0, overtime: 0, moved: 0, otherCrew: 0 },
    visits: problem.visits.map((one, index) => (index === visit ? { ...one, hard: false, weight: 1, promised: null } : one)),
  })
  return soft && soft.delta > 0 ? { why: 'late', crew: soft.at[0]!.crew, seconds: soft.delta * 60 } : { why: 'full' }
}
