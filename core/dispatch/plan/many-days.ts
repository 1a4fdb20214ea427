import { probit, quantileSorted } from 'simple-statistics'
import { Chance } from '../../chance'
import { roadSpread, type DayProblem, type Routes } from './day'
import { playDay } from './timing'

export interface ManyDays {
  /** By visit; null where it is left out. */
  visits: ({
    /** Share of days on which it begins after its promised window. */
    late: number
    /** So early, or earlier, it begins on half and on four of five days. */
    usual: number
    four: number
    /** Seconds that it would have to be sooner to keep its promise on four of five days. */
    short: number
  } | null)[]
  crews: { overtime: number; home: number }[]
}

/**
 * Plays a plan on many days, with work and roads as they turn out.
 * @param spread Of the logarithm of a visit’s work: 0.3 means that two of three days lie between 0.74 and 1.35 of the usual.
 * @param roads Of the logarithm of a drive.
 */
export function manyDays(
  problem: DayProblem,
  routes: Routes,
  { runs = 500, seed = 1, spread, roads = roadSpread }: { runs?: number; seed?: number; spread: (visit: number) => number; roads?: number },
): ManyDays {
  const chance = new Chance(seed)
  /** Lognormal with the mean 1. */
  const factor = (sigma: number) => Math.exp(sigma * probit(Math.min(1 - 1e-6, Math.max(1e-6, chance.next()))) - (sigma * sigma) / 2)
  const starts: number[][] = problem.visits.map(() => [])
  const homes: number[][] = problem.crews.map(() => [])
  const crews = problem.crews.map((_, crew) => crew)
  for (let run = 0; run < runs; run++) {
    const works = problem.visits.map((visit, index) => visit.seconds * factor(spread(index)))
    const drives = problem.visits.map(() => factor(roads))
    const byPlace = new Map(problem.visits.map(({ place }, index) => [place, drives[index]!]))
    const day: DayProblem = {
      ...problem,
      arrive: (from, to, leave) => leave + (problem.arrive(from, to, leave) - leave) * (byPlace.get(to) ?? 1),
    }
    const played = playDay(day, routes, crews, {
      keep: true,
      lenient: true,
      seconds: (visit, crew) => works[visit]! * problem.crews[crew]!.pace,
    })
    if (!played) continue
    played.forEach(({ stops, home }, crew) => {
      homes[crew]!.push(home)
      for (const { visit, start } of stops) starts[visit]!.push(start)
    })
  }
  const sorted = (list: number[]) => [...list].sort((a, b) => a - b)
  return {
    visits: problem.visits.map(({ to }, visit) => {
      const all = sorted(starts[visit]!)
      if (!all.length) return null
      const four = quantileSorted(all, 0.8)
      const late = all.filter((start) => start > to).length / all.length
      return { late, usual: quantileSorted(all, 0.5), four, short: Math.max(0, four - to) }
    }),
    crews: problem.crews.map(({ to }, crew) => {
      const all = sorted(homes[crew]!)
      return {
        overtime: all.filter((home) => home > to).length / Math.max(1, all.length),
        home: all.length ? quantileSorted(all, 0.8) : to,
      }
    }),
  }
}
