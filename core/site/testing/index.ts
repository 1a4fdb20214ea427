import { episode } from './episode'
import type { Focus } from './people'
import type { Harm } from './world'

/** A simulated crew that obeys the program in a physical world; see world.ts for what that world holds. */
export interface SimulationReport {
  seed: number
  steps: number
  episodes: number
  /** Harms by what happened, with the episode that shows the first of each. */
  harms: Record<string, { count: number; seed: number; first: Harm }>
  deadlocks: { seed: number; what: string }[]
  counts: Record<string, number>
}

export const stepsPerEpisode = 500

/**
 * Plays episodes until `steps` are done or, with `stopAtFirst`, something went wrong.
 * @param seed every episode's seed follows from it
 */
export function simulate({
  seed,
  steps,
  stopAtFirst = false,
  focus = {},
}: {
  seed: number
  steps: number
  stopAtFirst?: boolean
  focus?: Focus
}): SimulationReport {
  const report: SimulationReport = { seed, steps: 0, episodes: 0, harms: {}, deadlocks: [], counts: {} }
  while (report.steps < steps) {
    const own = (seed * 1_000_003 + report.episodes * 7919) | 0
    const result = episode(own, stepsPerEpisode, focus)
    report.episodes++
    report.steps += result.steps
    for (const harm of result.harms) {
      const known = (report.harms[harm.what] ??= { count: 0, seed: own, first: harm })
      known.count++
    }
    if (result.deadlock) report.deadlocks.push({ seed: own, what: result.deadlock })
    for (const [name, count] of Object.entries(result.counts)) report.counts[name] = (report.counts[name] ?? 0) + count
    if (stopAtFirst && (result.harms.length > 0 || result.deadlock)) break
  }
  return report
}
