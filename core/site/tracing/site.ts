import { sentence } from '../names'
import { inPanelOrder, tagsOn } from '../feeds'
import type { BreakerRecord, SiteState } from '../state'
import { loadOf, type Belief } from './belief'
import { beliefsOf, nextRound, type TracingProblem, type Proposal } from './plan'

/** Loads behind a breaker that somebody misses at once, by words on its label, and what to say before it drops. */
const dropWarnings: [RegExp, number, string][] = [
  [/fridge|freezer|kühl/i, 2, 'cold stores stay shut'],
  [/medical|oxygen|stair ?lift|lift\b/i, 6, 'ask the household first: somebody may depend on it'],
  [/alarm|sump|pump/i, 3, 'tell the household'],
  [/router|office|study|network|server|computer/i, 3, 'the router and computers drop: save work first'],
  [/furnace|boiler|heat/i, 1, 'heating restarts by itself'],
]

export interface TracedBreaker {
  breaker: BreakerRecord
  /** Why it stays as it is in this tracing; null: it may be moved. */
  stays: string | null
  warnings: string[]
}
export interface SiteTracing {
  /** Why no round may begin now. */
  obstacles: string[]
  breakers: TracedBreaker[]
  problem: TracingProblem
  next: Proposal | null
  beliefs: Belief[]
}

/** Every breaker of the site, and whether tracing may move it: untagged, not off limits, feeding boxes and not panels. */
export function tracedBreakers(site: SiteState): TracedBreaker[] {
  return Object.values(site.breakers)
    .sort(inPanelOrder)
    .map((breaker) => {
      const tags = tagsOn(site, breaker.id)
      const stays = breaker.offLimits
        ? `off limits: ${breaker.offLimits}`
        : breaker.role !== 'branch'
          ? 'feeds {a panel}'
          : tags.length
            ? `tag of ${tags.map((tag) => tag.initials).join(', ')}`
            : breaker.tripUnexplained
              ? 'tripped, cause not found'
              : breaker.state === 'unknown'
                ? 'position unknown'
                : null
      const found = dropWarnings.filter(([words]) => words.test(breaker.labelAsFound))
      return { breaker, stays, warnings: found.map(([, , warning]) => warning) }
    })
}
const costOf = (breaker: BreakerRecord) =>
  dropWarnings.reduce((sum, [words, cost]) => sum + (words.test(breaker.labelAsFound) ? cost : 0), 0)

/**
 * Circuit tracing: what feeds these boxes, as far as the rounds on record tell. Breakers close again after each round, so
 * every box is closed up before one begins.
 * @param boxIds boxes whose light, lamp or tester somebody can watch
 */
export function tracingAt(site: SiteState, boxIds: string[]): SiteTracing {
  const breakers = tracedBreakers(site)
  const movable = breakers.filter((one) => one.stays === null).map((one) => one.breaker)
  const all = breakers.filter((one) => one.breaker.role === 'branch').map((one) => one.breaker)
  const open = Object.values(site.boxes).filter((box) => box.closure !== 'closed')
  const obstacles = [
    ...(site.unknownEvent ? ['This program does not understand an entry in the record: update it first.'] : []),
    ...open.map((box) => `${sentence(box.name)} is ${box.closure === 'opened' ? 'open' : 'capped and guarded'}: close it up first.`),
    ...(movable.length ? [] : ['No {breaker} may be moved here.']),
  ]
  const problem: TracingProblem = {
    breakers: movable.map((breaker) => ({ id: breaker.id, cost: costOf(breaker) })),
    loads: boxIds.flatMap((id) => (site.boxes[id] ? [loadOf(site, site.boxes[id]!, all)] : [])),
    rounds: site.huntRounds,
  }
  const beliefs = beliefsOf(problem)
  return { obstacles, breakers, problem, next: nextRound(problem, beliefs), beliefs }
}
